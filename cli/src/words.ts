import { fixed } from '@ivory/core/math'
import { edgeWords } from '@ivory/core/mesh'
import { type BodyMeasure, type MeasureReport, placeWords } from '@ivory/core/release'

/** A measure report as lines for a terminal. */
export function reportLines(r: MeasureReport): string[] {
  return [
    r.name,
    ...r.ops.map(
      (o) =>
        `  ${String(o.number).padStart(5)} ${o.kind.padEnd(9)} ${o.status.padEnd(5)} ${o.message}`,
    ),
    ...r.bodies.flatMap(bodyLines),
  ]
}

function bodyLines(b: BodyMeasure): string[] {
  const size = [0, 1, 2].map((k) => fixed(b.bounds.max[k]! - b.bounds.min[k]!, 2)).join(' x ')
  const state = `${b.closed ? 'closed' : 'open'}${b.valid ? '' : ', not a sound solid'}`
  const faults = b.edges ? edgeWords(b.edges) : ''
  const place = (at: object) =>
    `(${Object.entries(at)
      .map(([axis, x]: [string, number]) => `${axis} ${fixed(x, 2)}`)
      .join(', ')})`
  return [
    `  ${b.name} (${b.kind}): ${size} mm, ${fixed(b.volume_mm3 / 1000, 3)} cm3, ${state}`,
    ...(faults ? [`    ${faults}${placeWords(b.edges!.places)}`] : []),
    ...(b.mass_g === null ? [] : [`    mass ${fixed(b.mass_g, 2)} g`]),
    `    centre of gravity ${b.centre_of_gravity_mm.map((x) => fixed(x, 2)).join(' / ')}`,
    ...(b.wall
      ? [
          `    wall ${fixed(b.wall.min_mm, 3)} ${place(b.wall.min_at)} to ${fixed(b.wall.max_mm, 3)} mm ${place(b.wall.max_at)}`,
        ]
      : []),
    ...(b.capacity ? [`    brim ${fixed(b.capacity.brim_ml, 2)} ml`] : []),
    ...(b.sealed_void_ml > 0
      ? [`    closed hollow ${fixed(b.sealed_void_ml, 2)} ml, nothing can be poured in`]
      : []),
    ...(b.tipping
      ? [
          `    tips at ${fixed(b.tipping.empty_deg, 1)} deg empty${b.tipping.filled_deg === null ? '' : `, ${fixed(b.tipping.filled_deg, 1)} deg filled`}`,
        ]
      : []),
  ]
}
