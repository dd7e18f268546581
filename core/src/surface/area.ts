import { gaussRule } from '../math'
import { breaksOf } from './basis'
import { evaluate, jet, type Patch } from './patch'

/** Places on each span, each way. */
const PER = 8

/** The area of a patch, mm2, by Gauss's rule on each of its spans. */
export function areaOf(s: Patch): number {
  const { nodes, weights } = gaussRule(PER)
  const j = jet()
  const [us, vs] = [breaksOf(s.u), breaksOf(s.v)]
  let sum = 0
  for (let a = 1; a < us.length; a++)
    for (let b = 1; b < vs.length; b++) {
      const [du, dv] = [us[a]! - us[a - 1]!, vs[b]! - vs[b - 1]!]
      for (let i = 0; i < PER; i++)
        for (let k = 0; k < PER; k++) {
          evaluate(s, us[a - 1]! + du * nodes[i]!, vs[b - 1]! + dv * nodes[k]!, 1, j)
          const x = j.u[1]! * j.v[2]! - j.u[2]! * j.v[1]!
          const y = j.u[2]! * j.v[0]! - j.u[0]! * j.v[2]!
          const z = j.u[0]! * j.v[1]! - j.u[1]! * j.v[0]!
          sum += weights[i]! * weights[k]! * du * dv * Math.hypot(x, y, z)
        }
    }
  return sum
}
