import { dot3, norm3, type P3, scale3, sub3 } from '../math'

/** Whether poles lie on the line from the first to the last, in their order, each within so many mm: their curve is that line. */
export function straightPoles(poles: readonly P3[], within: number): boolean {
  const a = poles[0]!
  const way = sub3(poles[poles.length - 1]!, a)
  const length = norm3(way)
  let before = 0
  return (
    length > within &&
    poles.every((p) => {
      const out = sub3(p, a)
      const on = dot3(out, way) / length
      const ahead = on >= before - within
      before = on
      return ahead && norm3(sub3(out, scale3(way, on / length))) < within
    })
  )
}
