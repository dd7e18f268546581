/** Standard views: the direction from which one looks. */
export const VIEWS: Record<string, [number, number, number]> = {
  corner: [0.75, -1.25, 0.75],
  front: [0, -1, 0],
  right: [1, 0, 0],
  top: [0, -0.0001, 1],
}
