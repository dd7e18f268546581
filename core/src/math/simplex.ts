/**
 * The least of a function of a few variables near where it starts, by the downhill simplex of Nelder and Mead (1965), standard
 * coefficients. `step` is how far it first looks along each. Gives the best it found after `rounds` at most.
 */
export function downhill(
  f: (x: readonly number[]) => number,
  start: readonly number[],
  step: number,
  rounds = 300,
): { x: number[]; value: number } {
  const n = start.length
  const corner = (x: number[]) => ({ x, value: f(x) })
  const all = [corner([...start])]
  for (let i = 0; i < n; i++) all.push(corner(start.map((x, k) => (k === i ? x + step : x))))
  for (let round = 0; round < rounds; round++) {
    all.sort((a, b) => a.value - b.value)
    const [best, worst, next] = [all[0]!, all[n]!, all[n - 1]!]
    const size = Math.max(...worst.x.map((x, k) => Math.abs(x - best.x[k]!)))
    if (size < 1e-10) break
    const middle = start.map((_, k) => all.slice(0, n).reduce((s, c) => s + c.x[k]! / n, 0))
    const along = (t: number) => corner(middle.map((m, k) => m + t * (worst.x[k]! - m)))
    const over = along(-1)
    if (over.value < best.value) {
      const further = along(-2)
      all[n] = further.value < over.value ? further : over
    } else if (over.value < next.value) all[n] = over
    else {
      const inside = along(over.value < worst.value ? -0.5 : 0.5)
      if (inside.value < Math.min(over.value, worst.value)) all[n] = inside
      else
        for (let i = 1; i <= n; i++) all[i] = corner(all[i]!.x.map((x, k) => (x + best.x[k]!) / 2))
    }
  }
  all.sort((a, b) => a.value - b.value)
  return all[0]!
}
