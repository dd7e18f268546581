/** Even numbers from 0 to 1, the same each time for a seed (Park and Miller 1988), so that no result wavers. */
export function evenNumbers(seed: number): () => number {
  let s = seed
  return () => {
    s = (s * 48_271) % 2_147_483_647
    return s / 2_147_483_647
  }
}
