import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turnedOf } from '../ops'
import type { Drawing } from '../profile'
import { brimVolume, cavityOf, volumeOf } from '../turned'
import { emptyWorkpiece, type Op, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { RebuildCache, rangeOf, readGauges, rebuild, solveWorkpiece } from '.'

const PI = Math.PI
type Pt = [number | string, number | string]

/** A closed polygon: points p0.. and lines e0.. */
const polygon = (points: Pt[]): Drawing => ({
  points: Object.fromEntries(points.map(([x, y], i) => [`p${i}`, { x, y }])),
  entities: points.map((_, i) => ({
    id: `e${i}`,
    kind: 'line',
    a: `p${i}`,
    b: `p${(i + 1) % points.length}`,
  })),
})
const profile = (n: number, id: string, drawing: Drawing) =>
  op(n, 'profile', id, { plane: 'front', drawing })
const revolve = (n: number, id: string, of: string, mode = 'new', body?: string, more = {}) =>
  op(n, 'revolve', id, {
    profile: of,
    mode,
    ...(body ? { body } : {}),
    angle: 360,
    start: 0,
    ...more,
  })

/** A cup: cylinder of figures `width` and `height`, filleted foot, shell of 3 open at the top. */
const cup = (): Workpiece => ({
  ...emptyWorkpiece('w', 'Cup'),
  figures: [
    { name: 'width', expr: '76 mm' },
    { name: 'height', expr: '93 mm' },
  ],
  route: [
    profile(
      10,
      'line',
      polygon([
        [0, 0],
        ['width / 2', 0],
        ['width / 2', 'height'],
        [0, 'height'],
      ]),
    ),
    revolve(20, 'turn', 'line'),
    op(30, 'fillet', 'foot', {
      body: 'turn',
      edges: [{ edge: ['turn:e0', 'turn:e1'], at: [38, 0], index: 0, of: 1 }],
      radius: 13,
    }),
    op(40, 'shell', 'hollow', {
      body: 'turn',
      wall: 3,
      open: [{ face: 'turn:e2', at: [19, 93] }],
      side: 'in',
    }),
  ],
  gauges: [{ id: 'g', kind: 'capacity', params: {} }],
})
const bodyOf = (w: Workpiece, id = 'turn') => turnedOf(rebuild(w).state.bodies[id]!)
const edited = (w: Workpiece, id: string, inputs: Op['inputs']): Workpiece => ({
  ...w,
  route: w.route.map((o) => (o.id === id ? { ...o, inputs: { ...o.inputs, ...inputs } } : o)),
})
const statusOf = (w: Workpiece) =>
  Object.fromEntries(rebuild(w).reports.map((r) => [r.id, r.status]))

describe('the route', () => {
  it('makes the cup of the reference rows B1 and B5', () => {
    expect(volumeOf(bodyOf(cup())) / 71950.7142499).toBeCloseTo(1, 9)
    expect(brimVolume(cavityOf(bodyOf(cup()))!) / 341942.43474).toBeCloseTo(1, 9)
  })
  it('runs again only what depends on an edit', () => {
    const cache = new RebuildCache()
    rebuild(cup(), cache)
    const reused = (w: Workpiece) => rebuild(w, cache).reports.map((r) => r.reused)
    expect(reused(cup())).toEqual([true, true, true, true])
    expect(reused(edited(cup(), 'hollow', { wall: 4 }))).toEqual([true, true, true, false])
    const wider = { ...cup(), figures: [{ name: 'width', expr: '80 mm' }, cup().figures[1]!] }
    expect(reused(wider)).toEqual([false, false, false, false])
    // A figure nobody uses makes nobody run.
    const extra = { ...wider, figures: [...wider.figures, { name: 'spare', expr: '1 mm' }] }
    expect(reused(extra)).toEqual([true, true, true, true])
  })
  it('leaves out a suppressed op and stops at the op it is rolled back to', () => {
    const w = cup()
    w.route[3] = { ...w.route[3]!, suppressed: true }
    expect(volumeOf(bodyOf(w))).toBeGreaterThan(400_000)
    expect(rebuild({ ...cup(), rolledTo: 'turn' }).reports).toHaveLength(2)
  })
  it('reports an unknown op, bad inputs and a bad value in sentences, and goes on', () => {
    const w = cup()
    w.route.push(op(50, 'weave', 'x', {}), op(60, 'fillet', 'y', { body: 3 }))
    const bad = edited(w, 'hollow', { wall: 'wal' })
    expect(statusOf(bad)).toMatchObject({
      turn: 'ok',
      foot: 'ok',
      hollow: 'fail',
      x: 'fail',
      y: 'fail',
    })
    const messages = rebuild(bad).reports.flatMap((r) => r.diagnoses.map((d) => d.message))
    expect(messages.join(' ')).toMatch(
      /no figure named "wal".*no op of the kind "weave".*inputs, body/s,
    )
  })
})

describe('what fails for another’s sake', () => {
  const saidOf = (w: Workpiece) =>
    Object.fromEntries(rebuild(w).reports.map((r) => [r.id, r.diagnoses[0]?.message ?? '']))
  it('names the op that is to blame, not every lack that follows', () => {
    const said = saidOf(edited(cup(), 'line', { plane: 'nowhere' }))
    expect(said.line).toMatch(/does not exist/)
    expect(said.turn).toBe('It waits for 10 line, which fails.')
    expect(said.foot).toBe('It waits for 20 turn, which fails.')
    expect(said.hollow).toBe('It waits for 20 turn, which fails.')
  })
  it('and one that was left out', () => {
    const w = cup()
    w.route[1] = { ...w.route[1]!, suppressed: true }
    expect(saidOf(w)).toMatchObject({
      turn: '',
      foot: 'It waits for 20 turn, which is left out.',
      hollow: 'It waits for 20 turn, which is left out.',
    })
  })
  it('an op that fails by itself says so itself', () =>
    expect(saidOf(edited(cup(), 'hollow', { wall: 300 })).hollow).not.toMatch(/waits for/))
})

describe('references', () => {
  it('survive a point put into an earlier piece and a change of size', () => {
    const w = edited(cup(), 'line', {
      drawing: polygon([
        [0, 0],
        [45, 0],
        [45, 60],
        [44, 93],
        [0, 93],
      ]),
    })
    // e0 and e1 are still the foot; the top is now e3, found where it was.
    expect(statusOf(w)).toMatchObject({ foot: 'ok', hollow: expect.stringMatching(/ok|warn/) })
  })
  it('lost ones stop the op and offer what could be meant; taking the offer mends it', () => {
    const broken = edited(cup(), 'foot', {
      edges: [{ edge: ['turn:gone', 'turn:e1'], at: [20, 50] }],
    })
    const report = rebuild(broken).reports.find((r) => r.id === 'foot')!
    expect(report.status).toBe('fail')
    expect(report.diagnoses[0]!.code).toBe('lost-reference')
    const fix = report.diagnoses[0]!.fixes[0]!
    expect(statusOf(edited(broken, fix.op, fix.inputs as Op['inputs'])).foot).toBe('ok')
  })
  it('found by likeness only is said, with a fix that confirms it', () => {
    const alike = edited(cup(), 'foot', {
      edges: [{ edge: ['turn:old', 'turn:e1'], at: [38.2, 0.1] }],
    })
    const report = rebuild(alike).reports.find((r) => r.id === 'foot')!
    expect(report.diagnoses[0]!.code).toBe('likeness')
    const confirmed = edited(alike, 'foot', report.diagnoses[0]!.fixes[0]!.inputs as Op['inputs'])
    expect(statusOf(confirmed).foot).toBe('ok')
  })
})

describe('revolves', () => {
  const block = polygon([
    [10, 0],
    [30, 0],
    [30, 20],
    [10, 20],
  ])
  const two = (mode: string, second: Drawing, more = {}): Workpiece => ({
    ...emptyWorkpiece('w', 'W'),
    route: [
      profile(10, 'a', block),
      revolve(20, 'turn', 'a'),
      profile(30, 'b', second),
      revolve(40, 'more', 'b', mode, 'turn', more),
    ],
  })
  const ring = (r0: number, r1: number, h: number) => PI * (r1 * r1 - r0 * r0) * h
  it.each([
    ['join', ring(10, 30, 20) + ring(30, 40, 10)],
    ['cut', ring(10, 30, 20) - ring(20, 30, 10)],
    ['meet', ring(20, 30, 10)],
  ])('%s', (mode, want) => {
    const w = two(
      mode,
      polygon([
        [20, 5],
        [40, 5],
        [40, 15],
        [20, 15],
      ]),
    )
    expect(volumeOf(bodyOf(w)) / want).toBeCloseTo(1, 9)
  })
  it('drawn on the left of the axis it is the same body', () => {
    const w = two(
      'join',
      polygon([
        [-20, 5],
        [-40, 5],
        [-40, 15],
        [-20, 15],
      ]),
    )
    expect(volumeOf(bodyOf(w)) / (ring(10, 30, 20) + ring(30, 40, 10))).toBeCloseTo(1, 9)
  })
  it('names what cannot be: both sides, another turn, another axis, no effect', () => {
    const both = two(
      'join',
      polygon([
        [-5, 0],
        [5, 0],
        [5, 3],
        [-5, 3],
      ]),
    )
    expect(rebuild(both).reports[3]!.diagnoses[0]!.code).toBe('over-axis')
    // Another turn is work for the exact kernel.
    const part = rebuild(two('join', block, { angle: 90 }))
    expect(part.reports[3]!.status).toBe('waits')
    expect(part.waits).toMatchObject([{ verb: 'turned' }])
    const far: Drawing = {
      ...block,
      points: { ...block.points, q: { x: 90, y: 0 }, r: { x: 90, y: 10 } },
      entities: [...block.entities, { id: 'ax', kind: 'axis', a: 'q', b: 'r' }],
    }
    expect(rebuild(two('join', far)).reports[3]!.status).toBe('waits')
    expect(rebuild(two('join', block)).reports[3]!.diagnoses[0]!.code).toBe('no-change')
  })
  it('a combination that changes little is told apart from one that changes nothing', () => {
    const square = (x: number, y: number, w: number) =>
      polygon([
        [x, y],
        [x + w, y],
        [x + w, y + w],
        [x, y + w],
      ])
    const told = (mode: string, tool: Drawing) =>
      rebuild(two(mode, tool)).reports[3]!.diagnoses.map((d) => d.message)
    // A ring of 0.001 square at the rim is less than a millionth of the body.
    expect(told('cut', square(29.999, 5, 1e-3))).toEqual([])
    expect(told('join', square(29.999, 5, 2e-3))).toEqual([])
    expect(told('cut', square(30, 5, 1))[0]).toMatch(/^The body is as before: it does not reach/)
    expect(told('join', square(15, 5, 1))[0]).toMatch(/it lies wholly inside/)
    expect(told('meet', square(0, -1, 40))[0]).toMatch(/lies wholly inside it\.$/)
  })
  it('an open profile fails at the marked gap, and its fix closes it', () => {
    const open = polygon([
      [0, 0],
      [20, 0],
      [20, 20],
      [0, 20],
    ])
    open.entities = open.entities.filter((e) => e.id !== 'e1')
    const w: Workpiece = {
      ...emptyWorkpiece('w', 'W'),
      route: [profile(10, 'a', open), revolve(20, 'turn', 'a')],
    }
    const [a, t] = rebuild(w).reports
    expect(a!.diagnoses[0]).toMatchObject({ code: 'gap' })
    expect(t!.diagnoses[0]!.places).toHaveLength(2)
    expect(statusOf(edited(w, 'a', a!.diagnoses[0]!.fixes[0]!.inputs as Op['inputs'])).turn).toBe(
      'ok',
    )
  })
})

describe('working ranges', () => {
  it('fillet: up to where the shorter face is used up, and says so', () => {
    const w = cup()
    w.figures[1] = { name: 'height', expr: '9 mm' }
    const r = rangeOf(w, rebuild(w), 'foot', 'radius')!
    // rounded fully at exactly 9
    const [span] = r.spans
    expect(span!.to).toBe(9)
    expect(span!.blocker!.message).toMatch(/used up/)
  })
  it('shell: up to where no cavity is left', () => {
    const w = cup()
    const r = rangeOf(w, rebuild(w), 'hollow', 'wall')!
    // a bore of some thousandths is no cavity any more
    const max = r.spans[0]!.to
    expect(max).toBeCloseTo(38, 2)
    expect(statusOf(edited(w, 'hollow', { wall: max * 0.999 })).hollow).not.toBe('fail')
    expect(statusOf(edited(w, 'hollow', { wall: max * 1.001 })).hollow).toBe('fail')
  })
  it('whatever the range promises holds (random vessels)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 60, noNaN: true }),
        fc.double({ min: 20, max: 90, noNaN: true }),
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        (width, height, share) => {
          const w = cup()
          w.figures = [
            { name: 'width', expr: `${width} mm` },
            { name: 'height', expr: `${height} mm` },
          ]
          w.route = w.route.filter((o) => o.id !== 'hollow')
          const r = rangeOf(w, rebuild(w), 'foot', 'radius')!
          expect(statusOf(edited(w, 'foot', { radius: r.spans[0]!.to * share })).foot).toBe('ok')
        },
      ),
      { numRuns: 15 },
    )
  })
  it('a fillet takes off exactly what Pappus says', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 30, noNaN: true }), (radius) => {
        const w = edited(cup(), 'foot', { radius })
        w.route = w.route.slice(0, 3)
        // spandrel r^2 (1 - pi/4), its centroid r (10 - 3 pi)/(12 - 3 pi) inside the corner (row A5)
        const taken =
          2 * PI * (38 - (radius * (10 - 3 * PI)) / (12 - 3 * PI)) * radius * radius * (1 - PI / 4)
        expect((PI * 38 * 38 * 93 - volumeOf(bodyOf(w))) / taken).toBeCloseTo(1, 6)
      }),
    )
  })
})

describe('solving', () => {
  it('finds the width for a capacity, against the closed form', () => {
    const w = cup()
    w.route = w.route.filter((o) => o.id !== 'foot')
    const r = solveWorkpiece(w, { figure: 'width', gauge: 'g', target: 250 })
    if (typeof r === 'string') throw new Error(r)
    expect(r.found).toHaveLength(1)
    expect(r.found[0]).toBeCloseTo(2 * (Math.sqrt(250_000 / PI / 90) + 3), 6)
  })
  it('says what the gauge reads at most when the target is out of reach', () => {
    const r = solveWorkpiece(cup(), { figure: 'width', gauge: 'g', target: 9000 })
    if (typeof r === 'string') throw new Error(r)
    expect(r.found).toEqual([])
    expect(r.span!.high).toBeGreaterThan(1000)
  })
})

describe('split and datum planes', () => {
  it('parts at a plane set off by a figure; both parts gauge on their own', () => {
    const w = cup()
    w.route.push(
      op(50, 'plane', 'at', { from: 'top', offset: 'height / 2' }),
      op(60, 'split', 'part', { body: 'turn', plane: 'at', keep: 'both' }),
    )
    const built = rebuild(w)
    const [below, above] = ['turn', 'part'].map((id) => volumeOf(turnedOf(built.state.bodies[id]!)))
    expect(below! + above!).toBeCloseTo(volumeOf(bodyOf(cup())), 3)
    expect(above! / (PI * (38 ** 2 - 35 ** 2) * 46.5)).toBeCloseTo(1, 9)
    w.gauges = [{ id: 'h', kind: 'height', body: 'part', params: {} }]
    expect(readGauges(w, built)[0]!.reading!.low).toBeCloseTo(46.5, 9)
  })
})

describe('inputs that are none', () => {
  const square = polygon([
    [0, 0],
    [10, 0],
    [10, 5],
    [0, 5],
  ])
  const told = (route: Op[]) =>
    rebuild({ ...emptyWorkpiece('w', 'W'), route }).reports.map((r) => [
      r.status,
      ...r.diagnoses.map((d) => d.message),
    ])

  it('are told by the op, however deep they lie', () => {
    const misspelt = {
      ...square,
      entities: square.entities.map((e, i) => (i ? e : { ...e, aid: 1 })),
    }
    const route = [
      op(5, 'plane', 'up', { how: 'offset', from: 'top', distance: 30 }),
      profile(10, 'half', misspelt as Drawing),
      revolve(20, 'disc', 'half', 'new', undefined, { colour: 'red', tilt: 2 }),
    ]
    expect(told(route)).toEqual([
      ['warn', 'There is no input "distance" here: it counts for nothing.'],
      ['warn', 'There is no input "drawing.entities.0.aid" here: it counts for nothing.'],
      ['warn', 'There are no inputs "colour", "tilt" here: they count for nothing.'],
    ])
  })
  it('are told beside the reason why an op fails', () => {
    const [first] = told([revolve(20, 'disc', 'nowhere', 'new', undefined, { profil: 'half' })])
    expect(first![0]).toBe('fail')
    expect(first!.at(-1)).toBe('There is no input "profil" here: it counts for nothing.')
  })
  it('an op that knows all of its inputs says nothing', () => {
    expect(told([profile(10, 'half', square), revolve(20, 'disc', 'half')])).toEqual([
      ['ok'],
      ['ok'],
    ])
  })
})
