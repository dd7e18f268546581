import type { Kernel, SolidHandle } from '../../kernel'
import { bad, good, type Motion } from '../../math'
import { movedMesh } from '../../mesh'
import { soundVolume } from '../accept'
import { namesFrom, putAbout } from '../names'
import { unlikeTriangles } from '../witness'
import { fromMeshes } from './meshes'
import { together } from './together'
import { keepMade, type Named, type Verb } from './verb'

export interface PatternArgs {
  op: string
  /** Where the copies go; the body itself stays. */
  motions: Motion[]
  /** Numbers of the copies, for their names: `o5:copy3(turn:side)`. */
  numbers: number[]
}

/** A body and its copies as one: joined where they touch, apart where they do not. */
export const patternVerb: Verb<PatternArgs> = {
  version: 2,
  run(bench, on, { op, motions, numbers }) {
    const { kernel } = bench
    const [given] = on
    const copies = motions.map((motion, i): Named => {
      const made = keepMade(bench, kernel.moved(given!.shape, motion))
      const names = namesFrom(made.origins, [given!.names], '')
      return {
        shape: made.shape,
        names: putAbout(`${op}:copy${numbers[i]}`, names),
      }
    })
    const all = [given!, ...copies]
    if (
      boxesApart(
        kernel,
        all.map((x) => x.shape),
      )
    ) {
      // A result is a shape of its own: the given one stays with its key.
      const apart = together(bench, all)
      return good([apart])
    }
    const made = keepMade(
      bench,
      kernel.boolean(
        'join',
        given!.shape,
        copies.map((c) => c.shape),
      ),
    )
    const result = {
      shape: made.shape,
      names: namesFrom(
        made.origins,
        all.map((x) => x.names),
        op,
      ),
    }
    const volume = soundVolume(kernel, result.shape, 'The pattern')
    if (!volume.ok) return volume
    const one = kernel.measure(given!.shape).volume
    if (volume.value > one * all.length * (1 + 1e-6) || volume.value < one * (1 - 1e-6))
      return bad(
        'not-right',
        'The joined copies do not measure what they must, so they are not used.',
      )
    const wrong = unlikeTriangles(bench, 'join', all, result)
    return wrong && wrong !== 'unsure' ? wrong : good([result])
  },
  onMeshes({ meshes }, on, { op, motions, numbers }) {
    const [given] = on
    const all = [
      given!,
      ...motions.map((motion, i) => ({
        mesh: movedMesh(given!.mesh, motion),
        names: putAbout(`${op}:copy${numbers[i]}`, given!.names),
      })),
    ]
    const made = meshes.combine(
      'join',
      all.map((x) => x.mesh),
    )
    return good([fromMeshes(made, all, op)])
  },
}

/** Whether no two shapes can touch: their boxes do not. */
function boxesApart(kernel: Kernel, shapes: readonly SolidHandle[]): boolean {
  const boxes = shapes.map((s) => kernel.measure(s).bounds)
  const gap = 1e-6
  return boxes.every((a, i) =>
    boxes
      .slice(i + 1)
      .every((b) =>
        [0, 1, 2].some((k) => a.max[k]! + gap < b.min[k]! || b.max[k]! + gap < a.min[k]!),
      ),
  )
}
