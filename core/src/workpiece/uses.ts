import { namesIn } from './expression'
import type { Workpiece } from './schema'

/** Inputs whose text is an expression; others are names and ids. */
export const EXPRESSION_KEYS = new Set([
  'x',
  'y',
  'z',
  'turn',
  'count',
  'count2',
  'pitch2',
  'draft',
  'factor',
  'pitch',
  'extent',
  'gap',
  'gapMost',
  'length',
  'head',
  'tail',
  'size',
  'radius',
  'distance',
  'second',
  'wall',
  'angle',
  'start',
  'offset',
  'value',
  'fraction',
  'height',
  'clearance',
  'spacing',
  'least',
  'margin',
  'deep',
  'width',
  'clear',
  'rim',
  'until',
  'which',
  'round',
  'last',
  'turns',
  'join',
  'twist',
  'scale',
  'across',
  'bore',
  'wide',
  'high',
  'give',
  'beginPull',
  'leavePull',
  'reachPull',
  'endPull',
  'weight',
  'sx',
  'sy',
  'sz',
  'by',
  'out',
  'reach',
  'share',
  'sharp',
  'lift',
  'within',
  'meet',
  'ball',
  'under',
  'drain',
  'controls',
])

/** Where a figure is used: names of other figures, and ids of ops. */
export function usesOf(w: Workpiece, name: string): { figures: string[]; ops: string[] } {
  return {
    figures: w.figures.filter((f) => f.name !== name && names(f.expr, name)).map((f) => f.name),
    ops: w.route
      .filter((o) => expressionsIn(o.inputs).some((e) => names(e, name)))
      .map((o) => o.id),
  }
}

/** Gives a figure another name wherever it is used. Changes `w` in place (a draft of it). */
export function renameFigure(w: Workpiece, from: string, to: string): void {
  for (const f of w.figures) {
    if (f.name === from) f.name = to
    f.expr = renamedIn({ value: f.expr }, from, to).value as string
  }
  for (const op of w.route) op.inputs = renamedIn(op.inputs, from, to)
}

/** Inputs in whose expressions a figure has another name. */
export function renamedIn(
  inputs: Record<string, unknown>,
  from: string,
  to: string,
): Record<string, unknown> {
  const word = new RegExp(`(?<![\\w.])${from}(?!\\w)`, 'g')
  const deep = (v: unknown, key: string): unknown => {
    if (typeof v === 'string')
      return EXPRESSION_KEYS.has(key) && names(v, from) ? v.replace(word, to) : v
    if (Array.isArray(v)) return v.map((x) => deep(x, key))
    if (v && typeof v === 'object')
      return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, deep(x, k)]))
    return v
  }
  return deep(inputs, '') as Record<string, unknown>
}

const names = (expr: string, name: string): boolean => {
  try {
    return namesIn(expr).includes(name)
  } catch {
    return false
  }
}

/** The expressions in inputs. */
export function expressionsIn(v: unknown, key = ''): string[] {
  if (typeof v === 'string') return EXPRESSION_KEYS.has(key) ? [v] : []
  if (Array.isArray(v)) return v.flatMap((x) => expressionsIn(x, key))
  if (v && typeof v === 'object') return Object.entries(v).flatMap(([k, x]) => expressionsIn(x, k))
  return []
}
