import type { ExactPart } from '../../../exact'
import {
  bad,
  dot3,
  good,
  type Motion,
  mm,
  type Outcome,
  type P3,
  scale3,
  shift,
} from '../../../math'
import { MeshTree, movedMesh, treeOf } from '../../../mesh'

/** The least distance of a body to itself moved, mm; 0 where they touch or cross; null beyond `most`. */
function gapTo(part: ExactPart, motion: Motion, most: number): number | null {
  const { positions, triangles } = part.mesh
  const copy = movedMesh(
    { positions, triangles, faceOf: new Uint32Array(triangles.length / 3) },
    motion,
  )
  return treeOf(part.mesh).gap(new MeshTree(copy), most)?.d ?? null
}

/** Copies this near (mm) count as as far apart as asked. */
const NEAR = 1e-5

/** So many times copies are moved on by what stays free between them; the rest of the way, which is short then, is halved. */
const STEPS = 40

/** Pitches found, by direction and gap: an op that waits for the kernel asks again and again. */
const pitches = new WeakMap<ExactPart, Map<string, number>>()

/** The pitch along a direction at which copies stand `gap` mm from each other; at 0 they just touch. */
export function pitchFor(part: ExactPart, dir: P3, gap: number): Outcome<number> {
  if (!(gap >= 0)) return bad('gap', 'The gap must not be less than 0.')
  const own = pitches.get(part) ?? new Map<string, number>()
  pitches.set(part, own)
  const key = `${dir.join()} ${gap}`
  const pitch = own.get(key) ?? searched(part, dir, gap)
  own.set(key, pitch)
  return good(pitch)
}

function searched(part: ExactPart, dir: P3, gap: number): number {
  const { positions } = part.mesh
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (let v = 0; v < positions.length; v += 3) {
    const s = dot3([positions[v]!, positions[v + 1]!, positions[v + 2]!], dir)
    low = Math.min(low, s)
    high = Math.max(high, s)
  }
  // As far as it reaches along the direction they surely stand apart by the gap. From there they come no nearer than the way
  // they are moved, so that no pitch at which they would be too near is passed over.
  let [near, far] = [0, high - low + gap]
  for (let step = 0; step < STEPS; step++) {
    const free = (gapTo(part, shift(scale3(dir, far)), gap + far) ?? gap) - gap
    if (free < NEAR) return far
    far -= free
  }
  while (far - near > NEAR) {
    const pitch = (near + far) / 2
    const d = gapTo(part, shift(scale3(dir, pitch)), gap + far)
    if (d !== null && (d < gap || d === 0)) near = pitch
    else far = pitch
  }
  return far
}

/** ", gap 1.2 mm": what is measured free between the first and its copy. */
export function gapWords(part: ExactPart, motion: Motion): string {
  const { min, max } = part.measure.bounds
  const d = gapTo(part, motion, 4 * Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]))
  return d === null ? '' : d < 5e-4 ? ', just touching' : `, gap ${mm(d, 2)}`
}
