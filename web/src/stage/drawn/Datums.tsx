import type { P3 } from '@ivory/core/math'
import { useMemo } from 'react'
import type { BodyView, DatumView } from '../../engine'
import { useSession } from '../../session/session'
import { type SheetDatum, SheetSkin } from '../bodies/SheetSkin'
import { useDisposed } from '../disposed'
import { geometryAt } from '../geometry'
import { type PathDatum, PathLine } from './PathLine'

const NONE: DatumView[] = []

/** Planes, axes and points set by ops: thin, the selected op's bold. */
export function Datums({ bodies }: { bodies: BodyView[] }) {
  const datums = useSession((s) => s.settled?.datums ?? NONE)
  const selected = useSession((s) => s.selected)
  const size = sizeOf(bodies)
  return datums.map((d) =>
    d.kind === 'path' ? (
      <PathLine key={d.id} path={d} bold={d.id === selected} />
    ) : d.kind === 'sheet' ? (
      <SheetSkin key={d.id} skin={d.skin} />
    ) : (
      <Datum key={d.id} datum={d} size={size} bold={d.id === selected} />
    ),
  )
}

/** Half the longest way across what is shown, mm, with some air. */
function sizeOf(bodies: BodyView[]): number {
  const spans = bodies.flatMap((b) => b.bounds.max.map((hi, k) => hi - b.bounds.min[k]!))
  return 0.6 * Math.max(40, ...spans)
}

function Datum({
  datum,
  size,
  bold,
}: {
  datum: Exclude<DatumView, PathDatum | SheetDatum>
  size: number
  bold: boolean
}) {
  const made = useMemo(() => {
    const ends = linesOf(datum, size).flat(2)
    return geometryAt(ends)
  }, [datum, size])
  const geometry = useDisposed(made)
  return (
    <lineSegments geometry={geometry} renderOrder={3}>
      <lineBasicMaterial
        color={bold ? '#9a5b00' : '#8d8370'}
        transparent
        opacity={bold ? 1 : 0.45}
        depthTest={!bold}
      />
    </lineSegments>
  )
}

/** A plane as its outline with a tick along x, an axis as dashes and dots, a point as three strokes. */
function linesOf(d: Exclude<DatumView, PathDatum | SheetDatum>, size: number): [P3, P3][] {
  const off = (o: P3, ...steps: [P3, number][]): P3 =>
    [0, 1, 2].map((k) => steps.reduce((s, [v, by]) => s + v[k]! * by, o[k]!)) as unknown as P3
  if (d.kind === 'point') {
    const arms: P3[] = [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ]
    return arms.map((v) => [off(d.at, [v, -size / 12]), off(d.at, [v, size / 12])])
  }
  if (d.kind === 'axis') {
    const unit = size / 10
    return Array.from({ length: 14 }, (_, i) => (i - 7) * 2 * unit).flatMap((at): [P3, P3][] => [
      [off(d.origin, [d.dir, at]), off(d.origin, [d.dir, at + 1.3 * unit])],
      [off(d.origin, [d.dir, at + 1.6 * unit]), off(d.origin, [d.dir, at + 1.7 * unit])],
    ])
  }
  const { origin, x, y } = d.frame
  const corner = (u: number, v: number) => off(origin, [x, u * size], [y, v * size])
  const ring = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)]
  return [
    ...ring.map((p, i): [P3, P3] => [p, ring[(i + 1) % 4]!]),
    [corner(0.9, 0), corner(1, 0)],
    [corner(0, 0.9), corner(0, 1)],
  ]
}
