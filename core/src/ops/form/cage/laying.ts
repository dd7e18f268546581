import {
  type Cage,
  edgesOf,
  laidOnto,
  layOf,
  movedAlike,
  type Orbits,
  pulledTo,
  type Symmetry,
  tableOf,
} from '../../../cage'
import {
  bad,
  type Diagnosis,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  sub3,
} from '../../../math'
import { bridged, noHit, type TriMesh, treeOf } from '../../../mesh'
import { chosenOn, copiesOf } from './chosen'
import type { CageEdit, Reads } from './inputs'
import { type Edited, finerStand, lostOf, type Stand, symmetric } from './stand'

type Lay = Extract<CageEdit, { kind: 'lay' }>

/** A cage of more faces is not refined any further by laying it. */
const MOST = 2000

/** A cage with what is chosen of it laid onto a body, refined as often as it may be and has to be; what was reached is measured. */
export function layed(stand: Stand, edit: Lay, symmetry: Symmetry, read: Reads): Outcome<Edited> {
  const within = read.length(edit.within)
  if (!(within >= 0.001))
    return bad('cage-within', 'A cage is laid within 0.001 mm at the nearest.')
  const gap = read.length(edit.gap)
  const [over, asIs] = [read.length(edit.ball), read.land(edit.body, Math.max(0.002, within / 5))]
  if (!asIs.ok) return asIs
  if (!(over >= 0)) return bad('cage-over', 'A ball that rolls over hollows has a radius over 0.')
  let land = asIs.value
  const first = chosenOn(stand.cage, edit.on)
  if (first.points.length === 0)
    return bad('cage-nothing', 'What is to be laid is not on the cage, or nothing is chosen.')
  let now = stand
  let on = edit.on
  const astray: P3[] = []
  for (let step = 0; ; step++) {
    const orbits = symmetric(now, symmetry)
    if (!orbits.ok) return orbits
    const moves = new Set(copiesOf(chosenOn(now.cage, on), orbits.value).points)
    if (step === 0 && over > 0)
      land = bridged(land, over, boxed(landed(now.cage, moves, land, edit.from), over)).mesh
    const made = once(now.cage, moves, orbits.value, land, gap, step === 0 ? edit.from : 'near')
    if (!made.ok) return made
    const { cage, most, mean, where, places, offs } = made.value
    astray.push(...made.value.astray)
    now = { ...now, cage, orbits: orbits.value }
    const done = most <= within
    const many = 4 * cage.layout.faces.length > MOST
    if (done || step === edit.finer || many) {
      const times = ['', ', refined once', ', refined twice', ', refined three times'][step]
      const rolled = over > 0 ? `, over hollows a ball of radius ${mm(over)} misses` : ''
      const words = `laid within ${mm(most, 3)} (${mm(mean, 4)} in the mean)${times}${rolled}`
      const warnings = [...lostOf(first.lost), ...astrayOf(astray)]
      const laid = { edit: edit.id, places, offs, within }
      if (done) return good({ ...now, warnings, words, laid })
      const ball = over > 0 ? 0 : ballFor(stand.cage)
      const hollow = ball > 0 ? hollowBelow(land, ball, places, within) : null
      warnings.push(hollow ? narrow(hollow, most, within) : far(most, within, where, many))
      const instead = hollow && {
        label: `Lie over it: over what a ball of radius ${mm(ball, 0)} does not go into`,
        edit: { ...edit, ball },
      }
      return good({ ...now, warnings, words, laid, ...(instead ? { instead } : {}) })
    }
    const next = finerStand(now, symmetry, `${edit.id}${step === 0 ? '' : `/${step}`}`)
    if (!next.ok) return next
    on = chosenAfter(cage, next.value.cage, moves)
    now = next.value
  }
}

/** Laid once: first straight along an axis where that is asked, then by least squares; measured as the symmetry leaves it. */
function once(
  cage: Cage,
  moves: ReadonlySet<number>,
  orbits: Orbits,
  mesh: TriMesh,
  off: number,
  from: Lay['from'],
) {
  const table = tableOf(cage)
  if (!table.ok) return table
  const pulled =
    from === 'near' ? null : pulledTo(cage, table.value, mesh, 'xyz'.indexOf(from), moves)
  const at = laidOnto({ ...cage, at: pulled?.at ?? cage.at }, table.value, mesh, off, moves)
  const ways = new Map([...moves].map((p) => [p, sub3(placeAt(at, p), placeAt(cage.at, p))]))
  // What lies unlike under copies is met in the mean: how far off that is, is measured.
  const laid = movedAlike(cage, orbits, ways).cage
  const reached = layOf(laid, table.value, mesh, off, moves)
  if (!reached)
    return bad(
      'cage-few',
      'What is chosen alone places no part of the form: choose whole faces with those beside them.',
    )
  return good({ cage: laid, ...reached, astray: pulled?.astray ?? [] })
}

/** Of a refined cage: the points of what was chosen, and those new on edges and in faces of it. */
function chosenAfter(before: Cage, { layout }: Cage, moves: ReadonlySet<number>): string[] {
  const own = new Set([...moves].map((p) => before.layout.points[p]!))
  if (own.size === before.layout.points.length) return ['all']
  const out = new Set(own)
  // A new face has one point from before; its others are taken along where all about them were chosen.
  const counts = new Map<number, [number, number]>()
  for (const { corners } of layout.faces)
    for (const p of corners.slice(1)) {
      const c = counts.get(p) ?? [0, 0]
      counts.set(p, [c[0] + 1, c[1] + (own.has(layout.points[corners[0]!]!) ? 1 : 0)])
    }
  for (const [p, [all, chosen]] of counts) if (all === chosen) out.add(layout.points[p]!)
  return [...out]
}

/** The radius of a ball a cage's faces can follow, whole mm: twice as long as its edges are in the mean. */
function ballFor({ layout, at }: Cage): number {
  const lengths = [...edgesOf(layout.faces).values()].map(([p, q]) =>
    norm3(sub3(placeAt(at, p), placeAt(at, q))),
  )
  return Math.max(1, Math.round((2 * lengths.reduce((a, b) => a + b, 0)) / lengths.length))
}

/** The deepest hollow below places laid onto a mesh that a ball does not go into; null where none is deeper than they may be off. */
function hollowBelow(
  mesh: TriMesh,
  ball: number,
  places: Float64Array,
  within: number,
): { deep: number; at: P3 } | null {
  const made = bridged(mesh, ball, boxed(places, within))
  const k = made.depth.reduce((best, d, i) => (d > made.depth[best]! ? i : best), 0)
  const deep = made.depth[k]!
  return deep > within ? { deep, at: placeAt(made.mesh.positions, k) } : null
}

/** Where points of a cage come down on a mesh, about. */
function landed(
  cage: Cage,
  points: ReadonlySet<number>,
  mesh: TriMesh,
  from: Lay['from'],
): Float64Array {
  const table = tableOf(cage)
  const at =
    from === 'near' || !table.ok
      ? cage.at
      : pulledTo(cage, table.value, mesh, 'xyz'.indexOf(from), points).at
  const hit = noHit()
  return Float64Array.from(
    [...points].flatMap((p) => {
      treeOf(mesh).nearest(...placeAt(at, p), Number.POSITIVE_INFINITY, -1, hit)
      return [hit.x, hit.y, hit.z]
    }),
  )
}

/** Whether a place lies in the box about places, or so far beside it. */
function boxed(places: Float64Array, beside: number): (p: P3) => boolean {
  const [low, high] = [placeAt(places, 0), placeAt(places, 0)].map((p) => [...p])
  for (const [i, x] of places.entries()) {
    low![i % 3] = Math.min(low![i % 3]!, x)
    high![i % 3] = Math.max(high![i % 3]!, x)
  }
  return (p) => p.every((x, k) => x > low![k]! - beside && x < high![k]! + beside)
}

const narrow = (
  { deep, at }: { deep: number; at: P3 },
  most: number,
  within: number,
): Diagnosis => ({
  code: 'cage-hollow',
  message: `A hollow ${mm(deep, 1)} deep here is narrower than its faces can follow: it lies within ${mm(most, 3)} only, not ${mm(within, 3)}. Lie over the hollow, or take more and smaller faces.`,
  places: [{ at, label: mm(deep, 1) }],
  fixes: [],
})

const far = (most: number, within: number, at: P3, many: boolean): Diagnosis => ({
  code: 'cage-off',
  message: `It lies within ${mm(most, 3)} only, not ${mm(within, 3)}: ${many ? `its cage has as many faces as one that is laid may have (${MOST})` : 'let it be refined once more'}, or ask less.`,
  places: [{ at, label: mm(most, 3) }],
  fixes: [],
})

const astrayOf = (places: readonly P3[]): Diagnosis[] =>
  places.length === 0
    ? []
    : [
        {
          code: 'cage-astray',
          message: `${places.length === 1 ? 'A point has' : `${places.length} points have`} nothing of the body before or behind: they go to the nearest of it.`,
          places: places.slice(0, 8).map((at) => ({ at })),
          fixes: [],
        },
      ]
