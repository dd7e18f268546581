import { beforeAll, describe, expect, test } from 'vitest'
import { faceRef } from '../exact'
import type { Op } from '../workpiece'
import { rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { diagnosis, exact, face, the } from './exactroute.test-data'

beforeAll(the)

const [R, H, LONG] = [30, 40, 45]
/** A turned cylinder with a boss of 16 x 14 on its side. */
const route: Op[] = [
  op(5, 'profile', 'half', {
    plane: 'front',
    use: 'turn',
    drawing: {
      points: { a: { x: 0, y: 0 }, b: { x: R, y: 0 }, c: { x: R, y: H }, d: { x: 0, y: H } },
      entities: [
        { id: 'base', kind: 'line', a: 'a', b: 'b' },
        { id: 'side', kind: 'line', a: 'b', b: 'c' },
        { id: 'top', kind: 'line', a: 'c', b: 'd' },
      ],
    },
  }),
  op(8, 'revolve', 'body', { profile: 'half', mode: 'new' }),
  rectangle(10, 'square', 'front', [-8, 12], [16, 14]),
  op(20, 'extrude', 'boss', { profile: 'square', mode: 'join', body: 'body', length: LONG }),
]

/** The boss outside the cylinder: slices square to its way, by the midpoint rule. */
function outside(lean: number): number {
  const t = Math.tan((lean * Math.PI) / 180)
  const n = 20_000
  let sum = 0
  for (let i = 0; i < n; i++) {
    const s = (LONG * (i + 0.5)) / n
    const within = s < R ? Math.sqrt(R ** 2 - s ** 2) : 0
    sum += Math.max(0, 8 - s * t - within) * 2 * (14 - 2 * s * t)
  }
  return (sum * LONG) / n
}

describe('a boss on a turned side', () => {
  test.each([3, 1, -2.5])('leans by %d deg from the plane it began on', async (lean) => {
    const p = await exact(route, 'body')
    const faces = p.faces.flatMap((f, i) =>
      f.names.some((n) => n.startsWith('boss:side')) ? [faceRef(p, i)] : [],
    )
    const draft = op(30, 'draft', 'lean', { body: 'body', faces, plane: 'front', angle: lean })
    const part = await exact([...route, draft], 'body')
    expect((part.measure.volume - Math.PI * R ** 2 * H) / outside(lean)).toBeCloseTo(1, 5)
  })
  test('a side that lies along the plane is told', async () => {
    const p = await exact(route, 'body')
    const faces = ['boss:side1', 'boss:side2'].map((n) => face(p, n))
    const found = await diagnosis([
      ...route,
      op(30, 'draft', 'lean', { body: 'body', faces, plane: 'top', angle: 2 }),
    ])
    expect(found.message).toMatch(/^This face lies along the plane it would lean from/)
    expect(found.places).toHaveLength(1)
  })
})
