import type { P2 } from '../math'
import { type Drawing, pointsOf, relationWords, type Value } from '../profile'
import { type Figure, namesIn, type Op, type Workpiece, workOut } from '../workpiece'
import { evaluateOp } from './evaluate'
import type { Rebuilt } from './rebuild'

/** A number that moves a held point: a figure, or the plain number of a dimension. */
export interface Driver {
  of: 'figure' | 'dimension'
  /** Name of the figure or id of the dimension. */
  id: string
  /** What it is called. */
  label: string
  /** Its number as it is written, without unit. */
  value: number
  /** What follows the number where it is written. */
  suffix: string
  /** How far the point goes for each 1 of that number, mm. */
  moves: P2
  /** It is named by something that speaks of the point itself. */
  direct: boolean
  min?: number
  max?: number
}
/** What a point answers to when it is dragged, and what else holds it, in words. */
export interface Drivers {
  drivers: Driver[]
  heldBy: string[]
}

/** A change of a number of this share of it is tried, and never less than this, to see what it moves. */
const TRY = { share: 1e-4, least: 1e-3 }
/** Movements below this for each 1 of a number are none, mm. */
const MOVES = 1e-6

/** A number written out, with whatever unit follows it: `70 mm`, `3.25"`. */
const PLAIN = /^\s*([-+]?\d*\.?\d+(?:e[-+]?\d+)?)(\s*(?:[a-z]+|["”'’°])?)\s*$/i

/**
 * The numbers that move a point of a profile, found by trying each: plain dimensions, and of every
 * expression that holds it the figure in it that moves it most.
 */
export function driversOf(w: Workpiece, built: Rebuilt, opId: string, point: string): Drivers {
  const op = w.route.find((o) => o.id === opId)
  const at = built.state.profiles[opId]?.shape.points[point]
  if (!op || !at) return { drivers: [], heldBy: [] }
  const drawing = op.inputs.drawing as unknown as Drawing
  const trial = new Trial(w, built, op, point, at)
  const out = new Map<string, Driver>()
  const add = (d: Driver | null) => {
    const known = d && out.get(d.id)
    if (d && !known) out.set(d.id, d)
    else if (d?.direct && known) known.direct = true
  }
  for (const holder of holdersIn(drawing, point)) {
    if (typeof holder.value === 'number') add(trial.number(drawing, holder))
    else add(trial.mostOf(holder.value, holder.direct))
  }
  const held = [...(drawing.relations ?? []), ...(drawing.dimensions ?? [])].filter((r) =>
    speaksOf(drawing, r, point),
  )
  return {
    drivers: [...out.values()],
    heldBy: held.map((r) => relationWords(drawing, r.id)),
  }
}

/** Whether a relation or dimension names the point, or a piece it belongs to. */
const speaksOf = (
  drawing: Drawing,
  r: { points: string[]; entities: string[] },
  point: string,
): boolean =>
  r.points.includes(point) ||
  drawing.entities.some((e) => r.entities.includes(e.id) && pointsOf(e).includes(point))

/** A value of the drawing that may hold the point: a dimension, or a coordinate driven by figures. */
interface Holder {
  id: string
  value: Value
  direct: boolean
}

function holdersIn(drawing: Drawing, point: string): Holder[] {
  const dims = (drawing.dimensions ?? [])
    .filter((d) => !d.read)
    .map((d): Holder => ({ id: d.id, value: d.value, direct: speaksOf(drawing, d, point) }))
  // Plain coordinates of points are the solver's to move; those driven by figures stay.
  const coordinates = Object.entries(drawing.points).flatMap(([id, p]) =>
    (['x', 'y'] as const)
      .filter((k) => typeof p[k] === 'string')
      .map((k): Holder => ({ id: `${id}.${k}`, value: p[k], direct: id === point })),
  )
  return [...coordinates, ...dims]
}

/** Tries changed numbers and sees how far the point goes. */
class Trial {
  readonly #w: Workpiece
  readonly #built: Rebuilt
  readonly #op: Op
  readonly #point: string
  readonly #at: P2
  readonly #figures = new Map<string, Driver | null>()

  constructor(w: Workpiece, built: Rebuilt, op: Op, point: string, at: P2) {
    this.#w = w
    this.#built = built
    this.#op = op
    this.#point = point
    this.#at = at
  }

  /** The plain number of a dimension as a driver; null where it does not move the point. */
  number(drawing: Drawing, h: Holder): Driver | null {
    const value = h.value as number
    const moves = this.#moves(value, (v) => ({
      figures: this.#w.figures,
      drawing: {
        ...drawing,
        dimensions: (drawing.dimensions ?? []).map((d) => (d.id === h.id ? { ...d, value: v } : d)),
      },
    }))
    if (!moves) return null
    const label = relationWords(drawing, h.id)
    return { of: 'dimension', id: h.id, label, value, suffix: '', moves, direct: h.direct }
  }

  /** The figure behind an expression that moves the point most; null where none does. */
  mostOf(expr: string, direct: boolean): Driver | null {
    let best: Driver | null = null
    for (const name of this.#plainFiguresIn(expr, new Set())) {
      const d = this.#figure(name)
      if (d && (!best || Math.hypot(...d.moves) > Math.hypot(...best.moves))) best = d
    }
    return best && { ...best, direct }
  }

  /** Figures written as a number that an expression comes down to. */
  #plainFiguresIn(expr: string, seen: Set<string>): string[] {
    return namesIn(expr).flatMap((name) => {
      const f = this.#w.figures.find((x) => x.name === name)
      if (!f || seen.has(name)) return []
      seen.add(name)
      return PLAIN.test(f.expr) ? [name] : this.#plainFiguresIn(f.expr, seen)
    })
  }

  #figure(name: string): Driver | null {
    const known = this.#figures.get(name)
    if (known !== undefined) return known
    const f = this.#w.figures.find((x) => x.name === name)!
    const [, number, suffix] = PLAIN.exec(f.expr)!
    const value = Number(number)
    const drawing = this.#op.inputs.drawing as unknown as Drawing
    const moves = this.#moves(value, (v) => ({
      figures: this.#w.figures.map((x): Figure => (x === f ? { ...x, expr: `${v}${suffix}` } : x)),
      drawing,
    }))
    const made: Driver | null = moves && {
      of: 'figure',
      id: name,
      label: name,
      value,
      suffix: suffix ?? '',
      moves,
      direct: false,
      ...(f.min === undefined ? {} : { min: f.min }),
      ...(f.max === undefined ? {} : { max: f.max }),
    }
    this.#figures.set(name, made)
    return made
  }

  /** How far the point goes for each 1 of a number, by trying a little more of it; null where it stays. */
  #moves(
    value: number,
    changed: (v: number) => { figures: readonly Figure[]; drawing: Drawing },
  ): P2 | null {
    const step = Math.max(TRY.least, TRY.share * Math.abs(value))
    const { figures, drawing } = changed(value + step)
    const state = this.#built.before[this.#op.id]
    if (!state) return null
    const out = evaluateOp(
      { ...this.#op, inputs: { ...this.#op.inputs, drawing: drawing as never } },
      {
        w: this.#w,
        state,
        figures: workOut(figures, this.#w.unit),
        exact: this.#built.exact,
        past: [],
      },
    )
    const to =
      out.ok && !out.value.failed && out.value.profiles?.[this.#op.id]?.shape.points[this.#point]
    if (!to) return null
    const moves: P2 = [(to[0] - this.#at[0]) / step, (to[1] - this.#at[1]) / step]
    return Math.hypot(...moves) > MOVES ? moves : null
  }
}
