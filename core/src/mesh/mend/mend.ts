import { closedBy, countEdges } from '../edges'
import type { FacedMesh } from '../faced'
import type { TriMesh } from '../types'
import { edgesOf, type Shell, shellsOf } from './shells'

/** A mesh as it has to be, and how many of its triangles were turned over or left out for that. */
export interface Mended<M> {
  mesh: M
  turned: number
  twice: number
}

/**
 * A mesh with every triangle once and neighbours the same way round, as far as that has one answer: where it closes so. What keeps it
 * from being closed else is left as it is.
 */
export function evenSkin(given: TriMesh): Mended<TriMesh> {
  const once = everyOnce(given)
  const alike = facingAlike(once)
  const twice = (given.triangles.length - once.triangles.length) / 3
  return { mesh: turnedOver(once, alike), turned: alike.length, twice }
}

/**
 * Meshes that each are even, as one: a skin that is there again is left out, and what looks inward and lies in nothing is turned
 * over, with all that lies in it.
 */
export function outwardSkins(mesh: FacedMesh): Mended<FacedMesh> {
  const all = shellsOf(mesh)
  const again = againIn(mesh, all)
  const kept = all.filter((s) => !again.has(s))
  const inward = new Set(
    all.flatMap((s, i) => (s.volume < 0 && s.within.every((j) => again.has(all[j]!)) ? [i] : [])),
  )
  const turned = kept
    .filter((s) => inward.has(all.indexOf(s)) || s.within.some((j) => inward.has(j)))
    .flatMap((s) => s.triangles)
  const twice = [...again].reduce((sum, s) => sum + s.triangles.length, 0)
  const whole = turnedOver(mesh, turned)
  return {
    mesh: twice
      ? onlyOf(
          whole,
          kept.flatMap((s) => s.triangles).sort((a, b) => a - b),
        )
      : whole,
    turned: turned.length,
    twice,
  }
}

/** Skins that are the same as one before: of triangles at the same places, the same way round. */
function againIn({ positions, triangles }: TriMesh, shells: readonly Shell[]): Set<Shell> {
  const known = new Set<string>()
  const again = new Set<Shell>()
  const sizes = new Map<string, number>()
  const size = (s: Shell) => [s.triangles.length, ...s.min, ...s.max].join()
  for (const s of shells) sizes.set(size(s), (sizes.get(size(s)) ?? 0) + 1)
  for (const s of shells) {
    if (sizes.get(size(s)) === 1) continue
    const place = (v: number) => positions.slice(3 * v, 3 * v + 3).join()
    const key = s.triangles
      .map((i) => turnOf([0, 1, 2].map((k) => place(triangles[3 * i + k]!))))
      .sort()
      .join(';')
    if (known.has(key)) again.add(s)
    known.add(key)
  }
  return again
}

/** Some triangles of a mesh. */
export function onlyOf(mesh: FacedMesh, some: readonly number[]): FacedMesh {
  return {
    positions: mesh.positions,
    triangles: Uint32Array.from(
      some.flatMap((i) => [0, 1, 2].map((k) => mesh.triangles[3 * i + k]!)),
    ),
    faceOf: Uint32Array.from(some, (i) => mesh.faceOf[i]!),
  }
}

/** The mesh without triangles that are there again, the same way round; as it is where it does not close so. */
function everyOnce(mesh: TriMesh): TriMesh {
  const { triangles } = mesh
  const known = new Set<string>()
  const kept: number[] = []
  for (let i = 0; i < triangles.length; i += 3) {
    const own = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!]
    const key = turnOf(own)
    if (known.has(key)) continue
    known.add(key)
    kept.push(...own)
  }
  if (kept.length === triangles.length) return mesh
  const once = { ...mesh, triangles: Uint32Array.from(kept) }
  return closedBy(countEdges(once)) ? once : mesh
}

/** Three corners from the least on, in their turn. */
function turnOf(own: readonly (number | string)[]): string {
  const least = own.reduce<number>((a, x, i) => (x < own[a]! ? i : a), 0)
  return [0, 1, 2].map((k) => own[(least + k) % 3]).join()
}

/** The triangles to be turned so that neighbours are the same way round, the fewer; none where an edge has not two triangles. */
function facingAlike(mesh: TriMesh): number[] {
  const { open, many, alike } = countEdges(mesh)
  if (alike === 0 || open > 0 || many > 0) return []
  const { triangles: t } = mesh
  const count = t.length / 3
  const beside: { other: number; same: boolean }[][] = Array.from({ length: count }, () => [])
  for (const [k, l] of edgesOf(mesh).values()) {
    const [i, j] = [Math.floor(k! / 3), Math.floor(l! / 3)]
    // Both begin at the same corner: one of them is the other way round.
    const same = t[k!] === t[l!]
    beside[i]!.push({ other: j, same })
    beside[j]!.push({ other: i, same })
  }
  const over = new Int8Array(count).fill(-1)
  const turned: number[] = []
  for (let start = 0; start < count; start++) {
    if (over[start] !== -1) continue
    over[start] = 0
    const own = [start]
    for (const i of own)
      for (const { other, same } of beside[i]!) {
        const way = same ? 1 - over[i]! : over[i]!
        // A skin of one side only has no outside.
        if (over[other] !== -1 && over[other] !== way) return []
        if (over[other] !== -1) continue
        over[other] = way
        own.push(other)
      }
    const some = own.filter((i) => over[i] === 1)
    turned.push(...(2 * some.length > own.length ? own.filter((i) => over[i] === 0) : some))
  }
  return turned
}

/** The mesh with some triangles the other way round. */
export function turnedOver<M extends TriMesh>(mesh: M, some: readonly number[]): M {
  if (some.length === 0) return mesh
  const triangles = mesh.triangles.slice()
  for (const i of some) {
    const [b, c] = [triangles[3 * i + 1]!, triangles[3 * i + 2]!]
    triangles[3 * i + 1] = c
    triangles[3 * i + 2] = b
  }
  return { ...mesh, triangles }
}
