import { add3, bad, dot3, type Frame, good, scale3, sub3 } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom } from '../names'
import { keepMade, type Named, type Verb } from './verb'

export interface PartArgs {
  op: string
  planes: Frame[]
}

/** A body parted by planes; the parts in the order of the planes' sides, those in front last. */
export const partVerb: Verb<PartArgs> = {
  version: 1,
  run(bench, on, { op, planes }) {
    const { kernel } = bench
    const [target] = on
    const { bounds, volume: whole } = kernel.measure(target!.shape)
    const middle = scale3(add3(bounds.min, bounds.max), 0.5)
    const reach = 2 * Math.hypot(...sub3(bounds.max, bounds.min))
    // The cutting squares stand across from the body, wherever the planes' own origins are.
    const near = planes.map((f) => {
      const off = dot3(sub3(middle, f.origin), f.z)
      return { ...f, origin: sub3(middle, scale3(f.z, off)) }
    })
    const made = keepMade(bench, kernel.partAt(target!.shape, near, reach))
    const cuts = planes.map((_, i) => [[planes.length > 1 ? `${op}:cut${i + 1}` : `${op}:cut`]])
    const names = namesFrom(made.origins, [target!.names, ...cuts], op)
    const parts = kernel.solidFaces(made.shape).map(({ solid, faces }) => ({
      shape: bench.keep(solid),
      names: faces.map((f) => names[f]!),
    }))
    if (parts.length < 2) return bad('misses', 'The plane does not go through the body.')
    let sum = 0
    for (const p of parts) {
      const volume = soundVolume(kernel, p.shape, 'A part')
      if (!volume.ok) return volume
      sum += volume.value
    }
    if (Math.abs(sum / whole - 1) > 1e-6)
      return bad('not-right', 'The parts do not make up the whole, so they are not used.')
    const side = (p: Named) => {
      const c = kernel.measure(p.shape).centroid
      return planes.map((f) => (dot3(sub3(c, f.origin), f.z) > 0 ? 1 : 0)).join('')
    }
    const sorted = parts.map((p) => ({ p, side: side(p) }))
    sorted.sort((a, b) => (a.side < b.side ? -1 : a.side > b.side ? 1 : 0))
    return good(sorted.map((x) => x.p))
  },
}
