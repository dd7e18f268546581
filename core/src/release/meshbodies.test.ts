import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { measureMesh, readStl, writeObj, writeStl, writeThreeMf } from '../mesh'
import { readGauges } from '../rebuild'
import { base, block, built, exact, face, piece, the } from '../rebuild/exactroute.test-data'
import { type Op, packFile, type Workpiece } from '../workpiece'
import { op } from '../workpiece/samples.test-data'
import { release } from '.'

/** A box of 20 x 40 x 20, 60 to 80 along x, as it comes out of the block's own triangles. */
const boxMesh = async () => {
  const part = await exact(
    [base, block, op(30, 'move', 'away', { body: 'block', how: 'by', x: 60, y: 0, z: 0 })],
    'block',
  )
  return part.mesh
}
const withFile = async (
  name: string,
  bytes: Uint8Array,
  route: (file: string) => Op[],
): Promise<Workpiece> => {
  const packed = packFile(name, bytes)
  if (!packed.ok) throw new Error(packed.diagnosis.message)
  const { id, file } = packed.value
  return { ...piece(route(id)), files: { [id]: file } }
}
const bring = (file: string) => op(30, 'import', 'foreign', { file })
const bodyOf = async (w: Workpiece, id: string) => {
  const { state, reports } = await built(w)
  for (const r of reports)
    expect([r.id, r.status, r.diagnoses[0]?.message ?? '']).toEqual([r.id, 'ok', ''])
  return state.bodies[id]!.shape as ExactPart
}

describe('a body of triangles', () => {
  it.each(['stl', 'obj', '3mf'] as const)('comes in as %s with six faces', async (format) => {
    const mesh = await boxMesh()
    const text = (s: string) => new TextEncoder().encode(s)
    const bodies = [{ name: 'box', color: '#aabbcc', mesh }]
    const bytes =
      format === 'stl'
        ? writeStl([mesh])
        : format === 'obj'
          ? text(writeObj(bodies))
          : writeThreeMf(bodies, 'box')
    const part = await bodyOf(await withFile(`box.${format}`, bytes, (f) => [bring(f)]), 'foreign')
    expect(part.kind).toBe('mesh')
    expect(part.measure.volume).toBeCloseTo(48000, 2)
    expect(part.faces.map((f) => f.kind)).toEqual(Array(6).fill('plane'))
    expect(part.edges).toHaveLength(12)
    expect(part.edges.every((e) => e.bend === 'out' && e.straight)).toBe(true)
    expect(part.faces.map((f) => f.area).sort((a, b) => a - b)[0]).toBeCloseTo(800, 3)
  })
  it('of triangles that look inward, or are there twice, is mended and says so; what takes up the same room is refused, with its cures', async () => {
    const mesh = await boxMesh()
    const moved = (x: number, scale = 1) => ({
      ...mesh,
      positions: mesh.positions.map((v, i) => scale * v + (i % 3 === 0 ? x : 0)),
    })
    const inward = { ...mesh, triangles: mesh.triangles.slice().reverse() }
    const told = async (meshes: (typeof mesh)[], inputs: object = {}) => {
      const w = await withFile('box.stl', writeStl(meshes), (f) => [
        op(30, 'import', 'foreign', { file: f, ...inputs }),
      ])
      const { state, reports } = await built(w)
      const part = state.bodies.foreign?.shape as ExactPart | undefined
      return { volume: part?.measure.volume, diagnoses: reports[0]!.diagnoses }
    }
    const turned = await told([inward])
    expect(turned.volume).toBeCloseTo(48000, 2)
    expect(turned.diagnoses.map((d) => d.message)).toEqual([
      `${mesh.triangles.length / 3} triangles looked inward and were turned.`,
    ])
    const twice = await told([mesh, mesh])
    expect(twice.volume).toBeCloseTo(48000, 2)
    expect(twice.diagnoses[0]!.message).toMatch(/there twice and counted once/)
    const across = [mesh, moved(10)]
    const refused = await told(across)
    expect(refused.volume).toBeUndefined()
    expect(refused.diagnoses[0]).toMatchObject({
      message:
        'box.stl: Two of its pieces take up the same room: 40.00 cm³ would be counted twice.',
      fixes: [{ label: 'Join them', inputs: { shared: 'join' } }],
    })
    expect(refused.diagnoses[0]!.places).toHaveLength(1)
    const join = await told(across, { shared: 'join' })
    expect(join.volume).toBeCloseTo(48000 + 8000, 1)
    const inner = [
      mesh,
      {
        ...moved(45, 0.5),
        positions: moved(45, 0.5).positions.map((v, i) => (i % 3 === 2 ? v + 4 : v)),
      },
    ]
    expect((await told(inner)).diagnoses[0]!.fixes.map((f) => f.label)).toEqual([
      'Join them',
      'Make the inner ones rooms',
    ])
    expect((await told(inner, { shared: 'room' })).volume).toBeCloseTo(48000 - 6000, 1)
    expect((await told(inner, { shared: 'join' })).volume).toBeCloseTo(48000, 1)
  })
  it('whose one skin goes through itself is brought in with the place told', async () => {
    // A bar 6 wide and high along lines in a plane; the last piece goes across the first, or ends before it.
    const bar = (last: number) => {
      const [a, b, c, d, e] = [0, 40, 40, 20, 20].map((x, i): [number, number] => [
        x,
        [0, 0, 30, 30, last][i]!,
      ])
      const sides = [
        [a![0], -3, a![0], 3],
        [b![0] + 3, -3, b![0] - 3, 3],
        [c![0] + 3, 33, c![0] - 3, 27],
        [d![0] - 3, 33, d![0] + 3, 27],
        [e![0] - 3, last, e![0] + 3, last],
      ]
      const positions = sides.flatMap(([x0, y0, x1, y1]) =>
        [
          [x0, y0, -3],
          [x1, y1, -3],
          [x1, y1, 3],
          [x0, y0, 3],
        ].flat(),
      ) as number[]
      const quads = [
        [3, 2, 1, 0],
        ...[0, 1, 2, 3].flatMap((i) =>
          [0, 1, 2, 3].map((k) => [
            4 * i + k,
            4 * i + ((k + 1) % 4),
            4 * i + 4 + ((k + 1) % 4),
            4 * i + 4 + k,
          ]),
        ),
        [16, 17, 18, 19],
      ]
      return {
        positions: Float64Array.from(positions),
        triangles: Uint32Array.from(quads.flatMap(([p, q, r, s]) => [p!, q!, r!, p!, r!, s!])),
      }
    }
    const told = async (last: number) => {
      const w = await withFile('bar.stl', writeStl([bar(last)]), (f) => [bring(f)])
      return (await built(w)).reports[0]!.diagnoses
    }
    expect((await told(10)).map((d) => d.code)).not.toContain('crosses-itself')
    const through = (await told(-15)).find((d) => d.code === 'crosses-itself')!
    const [x, y, z] = through.places[0]!.at as [number, number, number]
    expect(Math.abs(x - 20)).toBeLessThan(3.001)
    expect(Math.abs(y)).toBeLessThan(3.001)
    expect(Math.abs(z)).toBeLessThan(3.001)
  })
  it('is joined, cut, split, mirrored, patterned and scaled with surfaces beside it; faces keep their names', async () => {
    const stl = writeStl([await boxMesh()])
    const w = (more: Op[]) =>
      withFile('box.stl', stl, (f) => [
        { ...bring(f), number: 5 },
        base,
        block,
        op(30, 'move', 'nearer', { body: 'foreign', how: 'by', x: -10, y: 5, z: 5 }),
        ...more,
      ])
    const join = op(40, 'combine', 'both', { how: 'join', body: 'block', tools: ['foreign'] })
    const both = await bodyOf(await w([join]), 'block')
    // Of 60 x 40 x 20 each, 10 x 35 x 15 is shared.
    expect(both.measure.volume).toBeCloseTo(96000 - 10 * 35 * 15, 1)
    expect(both.measure.closed && both.measure.solids === 1).toBe(true)
    const names = both.faces.flatMap((f) => f.names)
    expect(names).toContain('block:side1')
    expect(names).toContain('foreign:f1')
    const cut = op(40, 'combine', 'less', { how: 'cut', body: 'block', tools: ['foreign'] })
    expect((await bodyOf(await w([cut]), 'block')).measure.volume).toBeCloseTo(42750, 1)
    const plane = op(50, 'plane', 'mid', { how: 'offset', from: 'side', offset: 30 })
    const half = op(60, 'split', 'half', { body: 'block', how: 'plane', plane: 'mid' })
    const left = await bodyOf(await w([join, plane, half]), 'block')
    expect(left.measure.volume).toBeCloseTo(24000, 1)
    expect(left.faces.some((f) => f.names.includes('half:cut'))).toBe(true)
    const mirror = op(50, 'mirror', 'twin', { body: 'block', plane: 'side', keep: 'joined' })
    expect((await bodyOf(await w([join, mirror]), 'block')).measure.volume).toBeCloseTo(
      2 * (96000 - 5250),
      0,
    )
    const row = op(50, 'pattern', 'row', { body: 'foreign', count: 3, pitch: 40, along: 'x' })
    expect((await bodyOf(await w([row]), 'foreign')).measure.volume).toBeCloseTo((60 + 80) * 800, 0)
    const scaled = op(50, 'move', 'half', { body: 'foreign', how: 'scale', factor: 0.5 })
    expect((await bodyOf(await w([scaled]), 'foreign')).measure.volume).toBeCloseTo(6000, 2)
    const circle = op(45, 'profile', 'hole', {
      plane: 'top',
      use: 'flat',
      drawing: {
        points: { c: { x: 70, y: 20 } },
        entities: [{ id: 'ring', kind: 'circle', c: 'c', radius: 5 }],
      },
    })
    const drill = op(50, 'extrude', 'drill', {
      profile: 'hole',
      mode: 'cut',
      body: 'foreign',
      to: 'through',
      side: 'alike',
    })
    const drilled = await bodyOf(await w([circle, drill]), 'foreign')
    expect(drilled.measure.volume / (48000 - Math.PI * 25 * 20)).toBeCloseTo(1, 3)
    expect(drilled.faces.some((f) => f.names.includes('drill:ring'))).toBe(true)
  })
  it('several planes part it in the same order as a body of surfaces', async () => {
    const stl = writeStl([await boxMesh()])
    const planes = [
      op(40, 'plane', 'low', { how: 'offset', from: 'top', offset: 6 }),
      op(41, 'plane', 'right', { how: 'offset', from: 'side', offset: 75 }),
    ]
    const parts = (body: string) =>
      op(50, 'split', 'parts', { body, how: 'plane', plane: 'low', also: ['right'] })
    const volumes = async (w: Workpiece) =>
      Object.values((await built(w)).state.bodies).map((b) =>
        Math.round((b.shape as ExactPart).measure.volume),
      )
    const there = op(30, 'move', 'away', { body: 'block', how: 'by', x: 60, y: 0, z: 0 })
    const exactly = await volumes(piece([base, block, there, ...planes, parts('block')]))
    const byTriangles = await withFile('box.stl', stl, (f) => [
      bring(f),
      ...planes,
      parts('foreign'),
    ])
    expect(exactly).toEqual([3600, 10800, 8400, 25200])
    expect(await volumes(byTriangles)).toEqual(exactly)
  })
  it('of several parts becomes a body each, from the left, by the fix that says so', async () => {
    const one = await boxMesh()
    const far = { ...one, positions: one.positions.map((x, i) => (i % 3 === 0 ? x + 200 : x)) }
    const w = await withFile('two.stl', writeStl([far, one]), (f) => [bring(f)])
    const together = await built(w)
    const [note] = together.reports[0]!.diagnoses
    expect(note!.code).toBe('several')
    const parted = await built({
      ...w,
      route: w.route.map((o) => ({ ...o, inputs: { ...o.inputs, ...note!.fixes[0]!.inputs } })),
    })
    const bodies = Object.values(parted.state.bodies)
    expect(bodies.map((b) => b.name)).toEqual(['two', 'two 2'])
    const left = bodies.map((b) => (b.shape.kind === 'turned' ? 0 : b.shape.measure.bounds.min[0]))
    expect(left[1]! - left[0]!).toBeCloseTo(200, 3)
    expect(parted.reports[0]!.diagnoses).toEqual([])
  })
  it('takes a plane on its flat faces; its gauges are read', async () => {
    const stl = writeStl([await boxMesh()])
    const part = await bodyOf(await withFile('box.stl', stl, (f) => [bring(f)]), 'foreign')
    const top = part.faces.find((f) => f.normal[2] > 0.9)!
    const w = await withFile('box.stl', stl, (f) => [
      bring(f),
      op(40, 'plane', 'lid', {
        how: 'offset',
        body: 'foreign',
        faces: [face(part, top.names[0]!)],
        offset: 3,
      }),
    ])
    const gauged = { ...w, gauges: [{ id: 'g', kind: 'width', body: 'foreign', params: {} }] }
    const result = await built(gauged)
    expect(result.state.planes.lid!.frame.origin[2]).toBeCloseTo(23, 4)
    expect(readGauges(gauged, result)[0]!.reading?.text).toBe('60.00 mm')
  })
  it('says before trying what it cannot, and leaves as triangles only', async () => {
    const stl = writeStl([await boxMesh()])
    const part = await bodyOf(await withFile('box.stl', stl, (f) => [bring(f)]), 'foreign')
    const ref = face(part, 'foreign:f1')
    for (const last of [
      op(40, 'draft', 'x', { body: 'foreign', faces: [ref], plane: 'top', angle: '2 deg' }),
      op(40, 'fillet', 'x', { body: 'foreign', edges: [], radius: 1 }),
    ]) {
      const { reports, waits } = await built(
        await withFile('box.stl', stl, (f) => [bring(f), last]),
      )
      expect(waits).toEqual([])
      expect(reports[1]!.diagnoses[0]).toMatchObject({ code: 'needs-surfaces' })
      expect(reports[1]!.diagnoses[0]!.message).toContain('consists of triangles')
    }
    const w = await withFile('box.stl', stl, (f) => [bring(f)])
    const result = await built(w)
    const shapes = await the()
    expect(release(w, result, 'step', { shapes })).toMatchObject({
      ok: false,
      diagnosis: { code: 'needs-surfaces' },
    })
    const out = release(w, result, 'stl', { shapes })
    if (!out.ok) throw new Error(out.diagnosis.message)
    const back = readStl(out.value.bytes)
    expect(back.ok && measureMesh(back.value).volume).toBeCloseTo(48000, 1)
  })
  it('with a hole in it is refused with the place of the hole', async () => {
    const mesh = await boxMesh()
    const holed = { ...mesh, triangles: mesh.triangles.slice(3) }
    const w = await withFile('box.stl', writeStl([holed]), (f) => [bring(f)])
    const d = (await built(w)).reports[0]!.diagnoses[0]!
    expect(d.message).toContain('not watertight: 3 edges with one side open')
    expect(d.places).toHaveLength(3)
    const rubbish = await withFile('box.stl', new TextEncoder().encode('hello'), (f) => [bring(f)])
    expect((await built(rubbish)).reports[0]!.diagnoses[0]!.message).toMatch(/not an STL file/)
  })
})
