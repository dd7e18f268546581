import type { P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import { BufferAttribute, BufferGeometry } from 'three'
import type { DatumView } from '../engine'
import { useDisposed } from './disposed'

export type PathDatum = Extract<DatumView, { kind: 'path' }>

/** A path as a line, with a tick where its pieces meet and a ring at kinks; the selected op's bold and through all. */
export function PathLine({ path, bold }: { path: PathDatum; bold: boolean }) {
  const made = useMemo(() => {
    const g = new BufferGeometry()
    const ends = path.pieces.flatMap((p) => p.slice(1).flatMap((b, i) => [...p[i]!, ...b]))
    g.setAttribute('position', new BufferAttribute(Float32Array.from(ends), 3))
    return g
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
      {bold && <Dots at={joints} color="#9a5b00" size={6} />}
      {path.kinks.length > 0 && <Dots at={path.kinks} color="#7d5600" size={10} />}
    </>
  )
}

export function Dots({ at, color, size }: { at: readonly P3[]; color: string; size: number }) {
  const key = at.flat().join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all of it
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(Float32Array.from(at.flat()), 3))
    return g
  }, [key])
  const geometry = useDisposed(made)
  return (
    <points geometry={geometry} renderOrder={5}>
      <pointsMaterial color={color} size={size} sizeAttenuation={false} depthTest={false} />
    </points>
  )
}

/** The boxes about paths, so that they come into view. */
export const pathBounds = (datums: readonly DatumView[]): { min: P3; max: P3 }[] =>
  datums.flatMap((d) => {
    if (d.kind !== 'path') return []
    const all = d.pieces.flat()
    const side = (pick: (...x: number[]) => number): P3 =>
      [0, 1, 2].map((k) => all.reduce((m, p) => pick(m, p[k]!), all[0]![k]!)) as unknown as P3
    return [{ min: side(Math.min), max: side(Math.max) }]
  })
