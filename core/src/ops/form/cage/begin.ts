import {
  type Cage,
  madeAlike,
  motionsOf,
  orbitsOf,
  type Symmetry,
  startBox,
  startCarried,
  startCylinder,
  startGiven,
  startPlane,
  startRegion,
  startRing,
  startTurned,
  tableOf,
} from '../../../cage'
import { bad, good, mm, type Outcome, type P3 } from '../../../math'
import type { Value } from '../../../profile'
import type { OpContext } from '../../state'
import type { CageInputs, CageStart, Reads } from './inputs'
import { readsOf } from './reads'
import { type Edited, symmetric } from './stand'

export const symmetryOf = ({
  turns,
  mirrors,
}: Pick<CageInputs, 'turns' | 'mirrors'>): Symmetry => ({
  turns,
  mirrors: mirrors.map((m) => 'xyz'.indexOf(m) as 0 | 1 | 2),
})

function started(start: CageStart, read: Reads): Outcome<Cage> {
  const length = (name: string, v: Value): Outcome<number> => {
    const n = read.length(v)
    return n > 0 && Number.isFinite(n)
      ? good(n)
      : bad('cage-start', `The ${name} of a cage is above 0.`)
  }
  switch (start.kind) {
    case 'cylinder': {
      const [radius, height] = [length('radius', start.radius), length('height', start.height)]
      if (!radius.ok) return radius
      if (!height.ok) return height
      const rings = Array.from({ length: start.bands + 1 }, (_, r) => ({
        radius: radius.value,
        z: (height.value * r) / start.bands,
      }))
      const shut = { floor: start.floor === 'shut', lid: start.lid === 'shut' }
      return good(startCylinder(start.columns, rings, shut))
    }
    case 'box':
    case 'ball': {
      const sizes = [start.sx, start.sy, start.sz].map((v) => length('size', v))
      for (const s of sizes) if (!s.ok) return s
      const size = sizes.map((s) => (s.ok ? s.value : 0)) as unknown as P3
      return good(startBox(size, [start.across, start.along, start.up], start.kind === 'ball'))
    }
    case 'plane': {
      const [x, y] = [length('size', start.sx), length('size', start.sy)]
      if (!x.ok) return x
      return y.ok ? good(startPlane([x.value, y.value], start.across, start.along)) : y
    }
    case 'ring': {
      const [radius, size] = [length('radius', start.radius), length('size', start.size)]
      if (!radius.ok) return radius
      if (!size.ok) return size
      return size.value / 2 < radius.value
        ? good(startRing(radius.value, size.value / 2, start.columns, start.around))
        : bad('cage-start', 'A ring goes through itself: its section is as wide as it is round.')
    }
    case 'turned': {
      const outline = read.outline(start.profile)
      return outline.ok ? good(startTurned(outline.value, start.columns, start.bands)) : outline
    }
    case 'carried': {
      const area = read.region(start.profile)
      if (!area.ok) return area
      const height = read.length(start.height)
      if (!(height !== 0 && Number.isFinite(height)))
        return bad('cage-start', 'The height of a cage is not 0; below 0 it goes the other way.')
      const { outline, normal } = area.value
      const shut = { floor: start.floor === 'shut', lid: start.lid === 'shut' }
      return good(startCarried(outline, normal, height, start.columns, start.bands, shut))
    }
    case 'region': {
      const area = read.region(start.profile)
      return area.ok ? startRegion(area.value.outline, area.value.normal, start.columns) : area
    }
    case 'given': {
      const cage = startGiven(start.points, start.faces)
      const table = tableOf(cage)
      return table.ok ? good(cage) : table
    }
  }
}

/** Symmetries of turns that the start has, for a sentence. */
function turnsOf(cage: Cage): number[] {
  return Array.from({ length: 96 }, (_, k) => 96 - k).filter(
    (turns) => turns > 1 && !('without' in orbitsOf(cage, { turns, mirrors: [] })),
  )
}

/** The symmetry that what a cage begins as has: the most turns about z, and the planes it is a mirror of itself in. */
export function foundSymmetry(
  { start }: Pick<CageInputs, 'start'>,
  ctx: OpContext,
): Outcome<Pick<CageInputs, 'turns' | 'mirrors'>> {
  const made = started(start, readsOf(ctx))
  if (!made.ok) return made
  const mirrors = (['x', 'y', 'z'] as const).filter(
    (_, k) => !('without' in orbitsOf(made.value, { turns: 1, mirrors: [k as 0 | 1 | 2] })),
  )
  return good({ turns: turnsOf(made.value)[0] ?? 1, mirrors })
}

/** What a cage begins as, with the symmetry it is given; where it has it nearly it is made alike, if that is asked, or offered so. */
export function begun(
  start: CageStart,
  symmetry: Symmetry,
  read: Reads,
  op: string,
): Outcome<Edited> {
  const made = started(start, read)
  if (!made.ok) return made
  const first = symmetric({ cage: made.value, free: new Set() }, symmetry)
  if (first.ok)
    return good({ cage: made.value, free: new Set(), orbits: first.value, warnings: [] })
  const restored = madeAlike(made.value, symmetry)
  if (restored && start.kind === 'given' && start.alike)
    return good({
      cage: restored.cage,
      free: new Set(),
      warnings: [],
      words: `made alike, points moved by up to ${mm(restored.most, 3)}`,
    })
  const own = turnsOf(made.value)
  const words = own.length > 0 ? ` Turns it has: ${own.join(', ')}.` : ''
  const nearly = restored
    ? ` It nearly has: its points are off by up to ${mm(restored.most, 3)} (${mm(restored.mean, 3)} in the mean).`
    : ''
  return bad(
    'cage-symmetry',
    `What the cage begins as has not this symmetry of ${motionsOf(symmetry).length} copies.${nearly}${words}`,
    first.diagnosis.places,
    restored && start.kind === 'given'
      ? [
          {
            label: `Make it alike, points moved by up to ${mm(restored.most, 3)}`,
            op,
            inputs: { start: { ...start, alike: true } },
          },
        ]
      : [],
  )
}
