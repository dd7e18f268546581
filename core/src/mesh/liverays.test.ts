import { describe, expect, test } from 'vitest'
import { wallByRays } from './liverays'
import type { TriMesh } from './types'

/** A ball about a place, as an even grid, with its normals out. */
function ball(radius: number, middle: [number, number, number], fine = 24) {
  const positions: number[] = []
  const normals: number[] = []
  const triangles: number[] = []
  for (let i = 0; i <= fine; i++)
    for (let j = 0; j <= 2 * fine; j++) {
      const [a, b] = [(Math.PI * i) / fine, (Math.PI * j) / fine]
      const n = [Math.sin(a) * Math.cos(b), Math.sin(a) * Math.sin(b), Math.cos(a)]
      normals.push(...n)
      positions.push(...n.map((x, k) => middle[k]! + radius * x))
      if (i === fine || j === 2 * fine) continue
      const at = i * (2 * fine + 1) + j
      const below = at + 2 * fine + 1
      if (i > 0) triangles.push(at, below, at + 1)
      if (i < fine - 1) triangles.push(at + 1, below, below + 1)
    }
  const mesh: TriMesh = {
    positions: Float32Array.from(positions),
    triangles: Uint32Array.from(triangles),
  }
  return {
    mesh,
    skin: { positions: Float32Array.from(positions), normals: Float32Array.from(normals) },
  }
}

describe('the wall between a skin and a room, by rays', () => {
  test('of balls about one middle: the difference of their radii, as near as the triangles are', () => {
    const room = ball(37, [0, 0, 0]).mesh
    const found = wallByRays(ball(40, [0, 0, 0], 17).skin, room, 5000)!
    expect(found.wall).toBeGreaterThan(3 - 1e-3)
    expect(found.wall).toBeLessThan(3 + 37 * (1 - Math.cos(Math.PI / 48)) + 0.1)
  })
  test('where the room stands off the middle, the least is on that side (closed form)', () => {
    const found = wallByRays(ball(40, [0, 0, 0]).skin, ball(30, [6, 0, 0], 60).mesh, 5000)!
    expect(found.wall).toBeCloseTo(4, 1)
    expect(found.at[0]).toBeCloseTo(40, 0)
  })
  test('where the room has come through, it is below 0', () => {
    const found = wallByRays(ball(40, [0, 0, 0]).skin, ball(30, [15, 0, 0], 60).mesh, 5000)!
    expect(found.wall).toBeCloseTo(-5, 1)
  })
  test('where nothing is met there is none', () => {
    expect(wallByRays(ball(40, [0, 0, 0]).skin, ball(2, [300, 0, 0]).mesh, 500)).toBeNull()
  })
})
