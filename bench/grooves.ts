import { emptyWorkpiece, type Workpiece } from '@ivory/core/workpiece'

type Pt = [number, number]
const closed = (points: Pt[]) => ({
  points: Object.fromEntries(points.map(([x, y], i) => [`p${i}`, { x, y }])),
  entities: points.map((_, i) => ({
    id: `e${i}`,
    kind: 'line' as const,
    a: `p${i}`,
    b: `p${(i + 1) % points.length}`,
  })),
})

/** A beaker with a row of grooves, hollowed; `i` makes each a little different. */
export function groovedBeaker(count: number, i: number): Workpiece {
  const op = (number: number, kind: string, id: string, inputs: Record<string, unknown>) => ({
    id,
    number,
    kind,
    name: id,
    inputs: inputs as never,
  })
  const r = 40 + (i % 40) * 0.01
  const body: Pt[] = [
    [0, 0],
    [r, 0],
    [r, 120],
    [0, 120],
  ]
  const groove: Pt[] = [
    [38, 10],
    [45, 10],
    [45, 12.5],
    [38, 12.5],
  ]
  const row = {
    id: 'row',
    kind: 'row',
    entities: ['e0', 'e1', 'e2', 'e3'],
    along: 'upright',
    size: 2.5,
    count,
    pitch: 100 / count,
  }
  const turn = { angle: 360, start: 0 }
  return {
    ...emptyWorkpiece('grooves', 'Grooved beaker'),
    brief: { purpose: '', material: 'petg', targets: {} },
    route: [
      op(10, 'profile', 'outline', { plane: 'front', drawing: closed(body) }),
      op(20, 'revolve', 'turn', { profile: 'outline', mode: 'new', ...turn }),
      op(30, 'profile', 'groove', {
        plane: 'front',
        drawing: { ...closed(groove), patterns: [row] },
      }),
      op(40, 'revolve', 'cut', { profile: 'groove', mode: 'cut', body: 'turn', ...turn }),
      op(50, 'shell', 'hollow', {
        body: 'turn',
        wall: 3,
        open: [{ face: 'turn:e2' }],
        side: 'in',
      }),
    ],
    gauges: ['capacity', 'wall', 'mass', 'tipping'].map((kind) => ({ id: kind, kind, params: {} })),
  }
}
