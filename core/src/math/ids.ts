/** An id not used yet: `turn1`, `turn2` ... */
export function freshId(taken: Iterable<string>, stem: string): string {
  const used = new Set(taken)
  let n = 1
  while (used.has(`${stem}${n}`)) n++
  return `${stem}${n}`
}
