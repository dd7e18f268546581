import { beforeAll, describe, expect, it } from 'vitest'
import {
  evenSkin,
  joined,
  joinedPieces,
  loadMeshSolids,
  measureMesh,
  outwardSkins,
  overlapsOf,
  withRooms,
} from '..'
import { SIDES } from '../box.test-data'
import type { FacedMesh } from '../faced'
import type { MeshSolids } from '../solids'
import type { TriMesh } from '../types'
import { weld } from '../weld'

let solids: MeshSolids
beforeAll(async () => {
  solids = await loadMeshSolids()
})

type Box = { at: [number, number, number]; size: [number, number, number]; in?: boolean }
/** The triangles of a box, nine numbers each. */
const soup = ({ at, size, in: inward }: Box): number[] =>
  SIDES.flatMap((t) =>
    (inward ? [...t].reverse() : t).flatMap((c) =>
      [0, 1, 2].map((k) => at[k]! + ((c >> k) & 1) * size[k]!),
    ),
  )
/** All boxes as one soup, as an STL file has them. */
const file = (...boxes: Box[]): TriMesh => weld(Float32Array.from(boxes.flatMap(soup)))
const faced = (m: TriMesh): FacedMesh => ({
  ...m,
  faceOf: Uint32Array.from({ length: m.triangles.length / 3 }, () => 0),
})
const ten = (x: number, more: Partial<Box> = {}): Box => ({
  at: [x, 0, 0],
  size: [10, 10, 10],
  ...more,
})
/** As a file with an object for each is read. */
const objects = (...boxes: Box[]) => {
  const even = boxes.map((b) => evenSkin(file(b)).mesh)
  return outwardSkins(
    joined(
      even.map(faced),
      even.map(() => 1),
    ),
  )
}
const read = (...boxes: Box[]) => {
  const even = evenSkin(file(...boxes))
  const out = outwardSkins(faced(even.mesh))
  return { ...out, turned: even.turned + out.turned, twice: even.twice + out.twice }
}
const volume = (m: TriMesh) => {
  const measured = measureMesh(m)
  expect(measured.closed).toBe(true)
  return measured.volume
}

describe('triangles the other way round', () => {
  it('whichever few of a skin are turned, they and no others are turned back', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const m = file(ten(0), ten(30))
      const some = Array.from({ length: 1 + (seed % 5) }, (_, i) => (7 * seed + 5 * i) % 24)
      for (const t of new Set(some)) {
        const [b, c] = [m.triangles[3 * t + 1]!, m.triangles[3 * t + 2]!]
        m.triangles[3 * t + 1] = c
        m.triangles[3 * t + 2] = b
      }
      const { mesh, turned } = evenSkin(m)
      expect(turned).toBe(new Set(some).size)
      expect(volume(mesh)).toBeCloseTo(2000, 6)
    }
  })
  it('a whole skin that looks inward is turned; a room in another stays; both of a file that is inside out are turned', () => {
    expect(read(ten(0, { in: true }))).toMatchObject({ turned: 12, twice: 0 })
    const room: Box = { at: [2, 2, 2], size: [4, 4, 4], in: true }
    const hollow = read(ten(0), room)
    expect(hollow.turned).toBe(0)
    expect(volume(hollow.mesh)).toBeCloseTo(1000 - 64, 6)
    const inside = read(ten(0, { in: true }), { ...room, in: false })
    expect(inside.turned).toBe(24)
    expect(volume(inside.mesh)).toBeCloseTo(1000 - 64, 6)
    // One of two beside each other.
    const two = read(ten(0), ten(30, { in: true }))
    expect(two.turned).toBe(12)
    expect(volume(two.mesh)).toBeCloseTo(2000, 6)
  })
  it('what is open, or of one side only, stays as it is', () => {
    const open = file(ten(0))
    const cut = { ...open, triangles: open.triangles.slice(3) }
    expect(evenSkin(cut)).toEqual({ mesh: cut, turned: 0, twice: 0 })
  })
})

describe('skins that are there twice', () => {
  it('count once, in one soup and as two objects', () => {
    for (const [made, pieces] of [
      [read(ten(0), ten(0)), 1],
      [read(ten(0), ten(0), ten(30)), 2],
      [objects(ten(0), ten(0), ten(30)), 2],
    ] as const) {
      expect([made.twice, made.turned]).toEqual([12, 0])
      expect(volume(made.mesh)).toBeCloseTo(1000 * pieces, 6)
    }
  })
  it('pieces that touch in a face, an edge or a corner are no doubles, and share nothing', () => {
    const beside: [number, number, number][] = [
      [10, 0, 0],
      [10, 10, 0],
      [10, 10, 10],
    ]
    for (const at of beside)
      for (const made of [read(ten(0), ten(0, { at })), objects(ten(0), ten(0, { at }))]) {
        expect([made.twice, made.turned]).toEqual([0, 0])
        expect(volume(made.mesh)).toBeCloseTo(2000, 6)
        expect(overlapsOf(made.mesh, solids)).toEqual([])
      }
  })
})

describe('pieces that take up the same room', () => {
  it('a box in a box, both facing out: told by its volume; joined it is gone, or made a room', () => {
    const inner: Box = { at: [2, 2, 2], size: [4, 4, 4] }
    for (const { mesh } of [read(ten(0), inner), objects(ten(0), inner)]) {
      const [over, ...more] = overlapsOf(mesh, solids)
      expect(more).toEqual([])
      expect(over!.how).toBe('inside')
      expect(over!.volume).toBeCloseTo(64, 6)
      expect(volume(joinedPieces(mesh, solids))).toBeCloseTo(1000, 3)
      const hollow = withRooms(mesh, [over!])
      expect(volume(hollow)).toBeCloseTo(936, 6)
      expect(overlapsOf(hollow, solids)).toEqual([])
    }
  })
  it('boxes through each other, also where faces of both lie in one plane: what they share (closed form)', () => {
    for (const [at, size, want] of [
      [[5, 3, 4], [10, 3, 3], 45],
      [[5, 0, 0], [10, 10, 10], 500],
      [[1, 0, 0], [20, 10, 10], 900],
      [[-5, -5, 4], [20, 20, 2], 200],
    ] as const) {
      const other: Box = { at: [...at], size: [...size] }
      const { mesh } = objects(ten(0), other)
      const over = overlapsOf(mesh, solids)
      expect(over.map((o) => o.how)).toEqual(['through'])
      expect(over[0]!.volume).toBeCloseTo(want, 3)
      const all = 1000 + size[0] * size[1] * size[2] - want
      expect(volume(joinedPieces(mesh, solids))).toBeCloseTo(all, 2)
    }
  })
  it('a piece in a room of another, and a room in that: none, at any depth', () => {
    const nest = [20, 16, 12, 8, 4].map(
      (s, i): Box => ({
        at: [-s / 2, -s / 2, -s / 2],
        size: [s, s, s],
        in: i % 2 === 1,
      }),
    )
    const { mesh, turned } = read(...nest)
    expect(turned).toBe(0)
    expect(overlapsOf(mesh, solids)).toEqual([])
    expect(volume(mesh)).toBeCloseTo(8000 - 4096 + 1728 - 512 + 64, 6)
  })
})
