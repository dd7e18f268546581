import { type P3, placeAt } from '@ivory/core/math'
import { useMemo } from 'react'
import type { DatumView } from '../../engine'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'

export type PathDatum = Extract<DatumView, { kind: 'path' }>

/** A path as a line, with a tick where its pieces meet and a ring at kinks; the selected op's bold and through all. */
export function PathLine({ path, bold }: { path: PathDatum; bold: boolean }) {
  const comb = useSession((s) => s.pathComb)
  const made = useMemo(() => {
    const ends = path.pieces.flatMap((p) => p.slice(1).flatMap((b, i) => [...p[i]!, ...b]))
    return geometryAt(ends)
  }, [path])
  const geometry = useDisposed(made)
  const joints = path.pieces.map((p) => p[0]!).concat([path.pieces.at(-1)!.at(-1)!])
  return (
    <>
      <lineSegments geometry={geometry} renderOrder={3}>
        <lineBasicMaterial
          color={bold ? '#9a5b00' : '#5d5344'}
          transparent
          opacity={bold ? 1 : 0.7}
          depthTest={!bold}
        />
      </lineSegments>
      {bold && comb && <Teeth path={path} />}
      {bold && <Dots at={joints} color="#9a5b00" size={6} />}
      {bold && path.aside.length > 0 && <Helpers path={path} />}
      {path.kinks.length > 0 && <Dots at={path.kinks} color="#7d5600" size={10} />}
    </>
  )
}

/** The lines to places the path passes by, in dashes. */
function Helpers({ path }: { path: PathDatum }) {
  const made = useMemo(() => {
    const touched = (i: number) => path.aside.includes(i)
    const lines = path.stops.slice(1).flatMap((b, i) => {
      if (!touched(i) && !touched(i + 1)) return []
      const a = path.stops[i]!
      const at = (k: number) => a.map((x, c) => x + (k / (2 * DASHES)) * (b[c]! - x))
      return Array.from({ length: DASHES }, (_, k) => [...at(2 * k), ...at(2 * k + 1)]).flat()
    })
    return geometryAt(lines)
  }, [path])
  const geometry = useDisposed(made)
  return (
    <>
      <lineSegments geometry={geometry} renderOrder={3}>
        <lineBasicMaterial color="#5d5344" depthTest={false} />
      </lineSegments>
      <Dots at={path.aside.map((i) => path.stops[i]!)} color="#5d5344" size={5} />
    </>
  )
}
const DASHES = 12

/** The longest tooth, as a share of the longest way across the path. */
const LONGEST = 0.2

/** How the curvature runs along a path: teeth to the outside of its bends, their tips joined; jumps are seen where pieces meet. */
function Teeth({ path }: { path: PathDatum }) {
  const made = useMemo(() => {
    const all = path.teeth.flat()
    const span = Math.max(
      ...[0, 1, 2].map((k) => {
        const xs = all.map((t) => t.at[k]!)
        return Math.max(...xs) - Math.min(...xs)
      }),
    )
    const most = Math.max(...all.map((t) => Math.hypot(...t.bend)))
    const scale = most > 0 ? (LONGEST * span) / most : 0
    const tip = ({ at, bend }: { at: P3; bend: P3 }) => at.map((x, k) => x + scale * bend[k]!)
    const lines = path.teeth.flatMap((row) => [
      ...row.flatMap((t) => [...t.at, ...tip(t)]),
      ...row.slice(1).flatMap((t, i) => [...tip(row[i]!), ...tip(t)]),
    ])
    return geometryAt(lines)
  }, [path])
  const geometry = useDisposed(made)
  return (
    <lineSegments geometry={geometry} renderOrder={3}>
      <lineBasicMaterial color="#22604f" transparent opacity={0.9} depthTest={false} />
    </lineSegments>
  )
}

export function Dots({ at, color, size }: { at: readonly P3[]; color: string; size: number }) {
  const key = at.flat().join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all of it
  const made = useMemo(() => {
    return geometryAt(at.flat())
  }, [key])
  const geometry = useDisposed(made)
  return (
    <points geometry={geometry} renderOrder={5}>
      <pointsMaterial color={color} size={size} sizeAttenuation={false} depthTest={false} />
    </points>
  )
}

/** The boxes about paths and sheets, so that they come into view. */
export const pathBounds = (datums: readonly DatumView[]): { min: P3; max: P3 }[] =>
  datums.flatMap((d) => {
    if (d.kind !== 'path' && d.kind !== 'sheet') return []
    const xs = d.kind === 'sheet' ? d.skin.positions : d.pieces.flat(2)
    const all = Array.from({ length: xs.length / 3 }, (_, i) => placeAt(xs, i))
    const side = (pick: (...x: number[]) => number): P3 =>
      [0, 1, 2].map((k) => all.reduce((m, p) => pick(m, p[k]!), all[0]![k]!)) as unknown as P3
    return [{ min: side(Math.min), max: side(Math.max) }]
  })
