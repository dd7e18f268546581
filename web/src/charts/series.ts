import { fixed } from '@ivory/core/math'
import type { Limits } from '@ivory/core/workpiece'
import type { ChartData } from '../engine'

/** A chart as plain data: what is drawn, what its axes mean, and its table. */
export interface Series {
  bars: boolean
  x: number[]
  y: number[]
  /** A second curve on a scale of its own. */
  more?: { y: number[]; label: string }
  /** Further curves on the scale of the second. */
  others?: { y: number[]; label: string }[]
  xLabel: string
  yLabel: string
  /** Widths of bars. */
  widths?: number[]
  /** Upright lines at limits. */
  limits: { at: number; label: string }[]
  /** Decimals of the table, 4 where not told. */
  digits?: number
  /** One sentence that says what is seen. */
  says: string
}

export function seriesOf(data: ChartData, limits: Limits): Series {
  if (data.kind === 'fill') {
    const { heights, volumes } = data.fill
    const [high, full] = [heights[heights.length - 1]!, volumes[volumes.length - 1]!]
    return {
      bars: false,
      x: heights,
      y: volumes,
      xLabel: 'level over the inside floor, mm',
      yLabel: 'ml',
      limits: [],
      says: `${fixed(full, 1)} ml to the brim, ${fixed(high, 1)} mm over the inside floor.`,
    }
  }
  if (data.kind === 'walls') {
    const { from, to, share } = data.walls
    const thin = share.reduce(
      (s, v, i) => s + (limits.min !== undefined && to[i]! <= limits.min ? v : 0),
      0,
    )
    const marks = [
      ...(limits.min === undefined ? [] : [{ at: limits.min, label: 'at least' }]),
      ...(limits.max === undefined ? [] : [{ at: limits.max, label: 'at most' }]),
    ]
    return {
      bars: true,
      x: from.map((f, i) => (f + to[i]!) / 2),
      y: share.map((s) => 100 * s),
      widths: from.map((f, i) => to[i]! - f),
      xLabel: 'wall, mm',
      yLabel: '% of the surface',
      limits: marks,
      says: `${fixed(from[0]!, 2)} to ${fixed(to[to.length - 1]!, 2)} mm${limits.min === undefined ? '' : `; ${fixed(100 * thin, 1)} % thinner than ${fixed(limits.min, 2)}`}.`,
    }
  }
  if (data.kind === 'bending') {
    const { at, bend, change } = data.bending
    const most = bend.indexOf(Math.max(...bend))
    return {
      bars: false,
      x: at,
      y: bend,
      more: { y: change, label: 'its change, 1/mm²' },
      xLabel: 'along the path, mm',
      yLabel: 'curvature, 1/mm',
      digits: 7,
      limits: [],
      says:
        bend[most]! > 0
          ? `The tightest bend, of radius ${fixed(1 / bend[most]!, 2)} mm, lies at ${fixed(at[most]!, 1)} of ${fixed(at[at.length - 1]!, 1)} mm.`
          : 'It is straight.',
    }
  }
  if (data.kind === 'sections') {
    const { at, area, long, short } = data.sections
    const [low, high] = [Math.min(...area), Math.max(...area)]
    return {
      bars: false,
      x: at,
      y: area,
      more: { y: long, label: 'long side, mm' },
      others: [{ y: short, label: 'short side, mm' }],
      xLabel: 'along the path, mm',
      yLabel: 'section, mm²',
      limits: [],
      says:
        at.length > 0
          ? `Square to the path its sections have ${fixed(low, 1)} mm² (at ${fixed(at[area.indexOf(low)]!, 1)} mm) to ${fixed(high, 1)} mm² (at ${fixed(at[area.indexOf(high)]!, 1)} mm), by triangles within 0.05 mm.`
          : 'The path nowhere goes past this body.',
    }
  }
  const { at, area, mass } = data.section
  const most = area.indexOf(Math.max(...area))
  return {
    bars: false,
    x: at,
    y: area,
    ...(mass ? { more: { y: mass, label: 'mass so far, g' } } : {}),
    xLabel: `${data.along}, mm`,
    yLabel: 'section, mm²',
    limits: [],
    says: `The largest section, ${fixed(area[most]!, 0)} mm², lies at ${fixed(at[most]!, 1)} mm${mass ? `; ${fixed(mass[mass.length - 1]!, 1)} g in all` : '; choose a material in the brief to see mass'}.`,
  }
}

/** The same as lines of comma-separated values, for a spreadsheet. */
export function seriesCsv(s: Series): string {
  const further = [...(s.more ? [s.more] : []), ...(s.others ?? [])]
  const head = [s.xLabel, s.yLabel, ...further.map((f) => f.label)].map((h) => `"${h}"`)
  const rows = s.x.map((x, i) =>
    [x, s.y[i]!, ...further.map((f) => f.y[i]!)].map((v) => fixed(v, s.digits ?? 4)),
  )
  return `${[head, ...rows].map((r) => r.join(',')).join('\r\n')}\r\n`
}
