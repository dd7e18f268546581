import { type P3, placeAt } from '../math'
import { type Cage, tableOf } from '.'

/** What was made, or what stood against it thrown. */
export function good<T>(
  made: { ok: true; value: T } | { ok: false; diagnosis: { message: string } },
): T {
  if (!made.ok) throw new Error(made.diagnosis.message)
  return made.value
}
/** Points less edges and faces. */
export const euler = (c: Cage): number => {
  const t = good(tableOf(c))
  return t.points - t.edges + t.faces
}
export const number = (c: Cage, name: string): number => c.layout.points.indexOf(name)

/** What the faces enclose, as fans of triangles (divergence theorem). */
export function enclosed({ layout, at }: Cage): number {
  let six = 0
  for (const { corners } of layout.faces)
    for (let i = 1; i + 1 < corners.length; i++) {
      const [a, b, c] = [corners[0]!, corners[i]!, corners[i + 1]!].map((p) => placeAt(at, p)) as [
        P3,
        P3,
        P3,
      ]
      six +=
        a[0] * (b[1] * c[2] - b[2] * c[1]) +
        a[1] * (b[2] * c[0] - b[0] * c[2]) +
        a[2] * (b[0] * c[1] - b[1] * c[0])
    }
  return six / 6
}
