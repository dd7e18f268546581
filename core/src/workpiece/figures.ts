import {
  type Dimension,
  ExpressionError,
  evaluateExpression,
  inDimension,
  type LengthUnit,
  type Quantity,
} from './expression'
import type { Figure } from './schema'

export interface FigureValue {
  name: string
  quantity?: Quantity
  error?: string
}
/** The figures worked out, and a reader for values that use them. */
export interface FigureTable {
  values: FigureValue[]
  /** Value in mm, rad, mm3 or plain; `note` is told each figure that was looked up. Throws ExpressionError. */
  read(
    value: number | string,
    want: Dimension,
    note?: (name: string, value: number) => void,
  ): number
}

/** Works out all figures in the order they depend on each other; cycles are named round. */
export function workOut(figures: readonly Figure[], unit: LengthUnit): FigureTable {
  const byName = new Map(figures.map((f) => [f.name, f]))
  const done = new Map<string, Quantity | ExpressionError>()
  const open: string[] = []

  const visit = (name: string): Quantity | undefined => {
    const known = done.get(name)
    if (known instanceof ExpressionError)
      throw new ExpressionError(`The figure "${name}" has no value: ${known.message}`)
    if (known) return known
    const figure = byName.get(name)
    if (!figure) return undefined
    if (open.includes(name)) {
      const round = [...open.slice(open.indexOf(name)), name].join(' needs ')
      throw new ExpressionError(`Going round in a circle: ${round}.`)
    }
    open.push(name)
    try {
      const value = evaluateExpression(figure.expr, visit)
      done.set(name, value)
      return value
    } finally {
      open.pop()
    }
  }
  const values = figures.map((f): FigureValue => {
    try {
      return { name: f.name, quantity: visit(f.name) }
    } catch (e) {
      if (!(e instanceof ExpressionError)) throw e
      done.set(f.name, e)
      return { name: f.name, error: e.message }
    }
  })
  return {
    values,
    read(value, want, note) {
      if (typeof value === 'number') {
        return want === 'angle' ? (value * Math.PI) / 180 : want === 'volume' ? value * 1000 : value
      }
      const look = (name: string) => {
        const found = visit(name)
        if (found) note?.(name, found.value)
        return found
      }
      return inDimension(evaluateExpression(value, look), want, unit)
    },
  }
}
