/** A row of a Jacobian: the unknowns it speaks of (each once) and the derivatives by them. */
export interface Row {
  cols: readonly number[]
  vals: ArrayLike<number>
}

/**
 * An order of rows in which those that share unknowns stand near each other: reverse Cuthill-McKee
 * (Cuthill and McKee 1969, reversed by George 1971). `uses` lists the unknowns of each row.
 */
export function nearOrder(uses: readonly (readonly number[])[]): number[] {
  const byUnknown = new Map<number, number[]>()
  for (const [i, cols] of uses.entries())
    for (const c of cols) {
      const sharing = byUnknown.get(c)
      if (sharing) sharing.push(i)
      else byUnknown.set(c, [i])
    }
  const near = uses.map((cols, i) => {
    const all = new Set<number>()
    for (const c of cols) for (const k of byUnknown.get(c)!) if (k !== i) all.add(k)
    return [...all]
  })
  const fewest = (a: number, b: number) => near[a]!.length - near[b]!.length
  const order: number[] = []
  const seen = new Uint8Array(uses.length)
  for (const first of uses.map((_, i) => i).sort(fewest)) {
    if (seen[first]) continue
    seen[first] = 1
    order.push(first)
    for (let k = order.length - 1; k < order.length; k++) {
      const next = near[order[k]!]!.filter((i) => !seen[i]).sort(fewest)
      for (const i of next) seen[i] = 1
      order.push(...next)
    }
  }
  return order.reverse()
}

/**
 * Cholesky factor of J W Jᵀ + λ I within its envelope (George and Liu 1981, chapter 4), rows taken in
 * `order`. Gives the solver of (J W Jᵀ + λ I) y = b; null where the matrix is not positive definite.
 */
export function factorNormal(
  rows: readonly Row[],
  weights: ArrayLike<number>,
  lambda: number,
  order: readonly number[],
): ((b: ArrayLike<number>) => Float64Array) | null {
  const m = rows.length
  const place = new Int32Array(m)
  for (let i = 0; i < m; i++) place[order[i]!] = i
  // Row by row from the first place at which it shares an unknown with an earlier one.
  const earlier = new Map<number, number[]>()
  const a: Float64Array[] = []
  const first = new Int32Array(m)
  for (let i = 0; i < m; i++) {
    const { cols, vals } = rows[order[i]!]!
    let from = i
    for (const c of cols) from = Math.min(from, earlier.get(c)?.[0] ?? i)
    const line = new Float64Array(i - from + 1)
    for (let k = 0; k < cols.length; k++) {
      const c = cols[k]!
      const v = vals[k]! * weights[c]!
      const sharing = earlier.get(c) ?? []
      for (const j of sharing) {
        const other = rows[order[j]!]!
        line[j - from]! += v * other.vals[other.cols.indexOf(c)]!
      }
      line[i - from]! += v * vals[k]!
      sharing.push(i)
      earlier.set(c, sharing)
    }
    line[i - from]! += lambda
    first[i] = from
    a.push(line)
  }
  for (let i = 0; i < m; i++) {
    const ai = a[i]!
    const fi = first[i]!
    for (let j = fi; j <= i; j++) {
      const aj = a[j]!
      const fj = first[j]!
      let s = ai[j - fi]!
      for (let k = Math.max(fi, fj); k < j; k++) s -= ai[k - fi]! * aj[k - fj]!
      if (j < i) ai[j - fi] = s / aj[j - fj]!
      else if (s > 0) ai[i - fi] = Math.sqrt(s)
      else return null
    }
  }
  return (b) => {
    const y = new Float64Array(m)
    for (let i = 0; i < m; i++) {
      const [ai, fi] = [a[i]!, first[i]!]
      let s = b[order[i]!]!
      for (let k = fi; k < i; k++) s -= ai[k - fi]! * y[k]!
      y[i] = s / ai[i - fi]!
    }
    for (let i = m - 1; i >= 0; i--) {
      const [ai, fi] = [a[i]!, first[i]!]
      y[i]! /= ai[i - fi]!
      for (let k = fi; k < i; k++) y[k]! -= ai[k - fi]! * y[i]!
    }
    return Float64Array.from(place, (i) => y[i]!)
  }
}
