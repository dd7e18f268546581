/** The triangles of a box whose corner k lies at the far end of x, y and z where bits 0, 1 and 2 of k are set; they look out. */
export const SIDES = [
  [0, 2, 1],
  [1, 2, 3],
  [4, 5, 6],
  [5, 7, 6],
  [0, 1, 4],
  [1, 5, 4],
  [2, 6, 3],
  [3, 6, 7],
  [0, 4, 2],
  [2, 4, 6],
  [1, 3, 5],
  [3, 7, 5],
]
