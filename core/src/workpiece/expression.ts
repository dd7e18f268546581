import { create, type MathNode, parseDependencies } from 'mathjs/number'
import { clearing, FITS, type Fit, printedWall, reckonFit } from './fits'

/** The expression parser alone: without the library's functions it is there at once. */
const { parse } = create(parseDependencies)

/** A number with its dimension: powers of length (mm) and angle (rad). */
export interface Quantity {
  value: number
  length: number
  angle: number
}
export type Dimension = 'length' | 'angle' | 'number' | 'volume'
export type LengthUnit = 'mm' | 'in'

/** Something a person can read and act on. */
export class ExpressionError extends Error {
  override name = 'ExpressionError'
}

const q = (value: number, length = 0, angle = 0): Quantity => ({ value, length, angle })

/** Units that may follow a number. Inch and US measures: 1959 agreement, NIST Handbook 44. */
const UNITS: Record<string, Quantity> = {
  mm: q(1, 1),
  cm: q(10, 1),
  m: q(1000, 1),
  um: q(0.001, 1),
  in: q(25.4, 1),
  inch: q(25.4, 1),
  ft: q(304.8, 1),
  mil: q(0.0254, 1),
  deg: q(Math.PI / 180, 0, 1),
  rad: q(1, 0, 1),
  ml: q(1000, 3),
  cl: q(10_000, 3),
  l: q(1e6, 3),
  floz: q(29573.5295625, 3),
}
const CONSTANTS: Record<string, Quantity> = { pi: q(Math.PI) }
/** Words that cannot name a figure. */
export const RESERVED: ReadonlySet<string> = new Set([
  ...Object.keys(UNITS),
  ...Object.keys(CONSTANTS),
  ...['sqrt', 'abs', 'min', 'max', 'round', 'floor', 'ceil', 'sin', 'cos', 'tan', 'asin', 'acos'],
  ...['atan', 'atan2', 'hypot', 'around', 'inside', 'lines'],
  ...Object.keys(FITS).flatMap((f) => [`hole_${f}`, `shaft_${f}`]),
])

const MAX_LENGTH = 500
const MAX_DEPTH = 40

/** Inch and foot marks, fractions such as `3 3/8 in`, the degree sign: rewritten for the parser. */
export function plain(text: string): string {
  const mixed = /(\d+)\s+(\d+)\s*\/\s*(\d+)/g
  const dashed = /(\d+)-(\d+)\s*\/\s*(\d+)(?=\s*(?:in\b|"|”))/g
  return text
    .replace(dashed, '($1+$2/$3)')
    .replace(mixed, '($1+$2/$3)')
    .replace(/(\d+)\s*\/\s*(\d+)(?=\s*(?:in\b|"|”))/g, '($1/$2)')
    .replace(/\(\((\d+\/\d+)\)\)/g, '($1)')
    .replace(/(\([^()]*\)|[\d.]+)\s*['’]\s*((?:\([^()]*\)|[\d.]+)\s*["”])/g, '($1 ft + $2)')
    .replace(/["”]/g, ' inch')
    .replace(/\bin\b/g, 'inch') // to the parser, "in" is a conversion operator
    .replace(/['’]/g, ' ft')
    .replace(/°/g, ' deg')
    .replace(/µm/g, 'um')
    .replace(/fl\.?\s*oz/g, 'floz')
    .replace(/(\d),(\d)/g, '$1.$2')
}

export type Lookup = (name: string) => Quantity | undefined

/** Works an expression out. `look` gives the figures; throws `ExpressionError` with a sentence. */
export function evaluateExpression(text: string, look: Lookup): Quantity {
  if (text.length > MAX_LENGTH)
    throw new ExpressionError(`The expression is longer than ${MAX_LENGTH} characters.`)
  return walk(parsed(text), look, 0)
}

/** Names of figures an expression uses. */
export function namesIn(text: string): string[] {
  const names = new Set<string>()
  parsed(text).traverse((n, path) => {
    if (n.type === 'SymbolNode' && path !== 'fn') {
      const name = (n as unknown as { name: string }).name
      if (!RESERVED.has(name)) names.add(name)
    }
  })
  return [...names]
}

const trees = new Map<string, MathNode>()

function parsed(text: string): MathNode {
  const known = trees.get(text)
  if (known) return known
  if (text.trim() === '') throw new ExpressionError('The expression is empty.')
  let tree: MathNode
  try {
    tree = parse(plain(text))
  } catch {
    throw new ExpressionError(`"${text}" cannot be read as a value.`)
  }
  if (trees.size > 5000) trees.clear()
  trees.set(text, tree)
  return tree
}

type Op = { op: string; args: MathNode[] }

function walk(node: MathNode, look: Lookup, depth: number): Quantity {
  if (depth > MAX_DEPTH) throw new ExpressionError('The expression is nested too deeply.')
  const go = (n: MathNode) => walk(n, look, depth + 1)
  switch (node.type) {
    case 'ConstantNode': {
      const value = (node as unknown as { value: unknown }).value
      if (value === undefined) throw new ExpressionError('The expression says nothing.')
      if (typeof value !== 'number') throw new ExpressionError(`${String(value)} is not a number.`)
      return finite(q(value))
    }
    case 'ParenthesisNode':
      return go((node as unknown as { content: MathNode }).content)
    case 'SymbolNode': {
      const name = (node as unknown as { name: string }).name
      const found = own(UNITS, name) ?? own(CONSTANTS, name) ?? look(name)
      if (!found) throw new ExpressionError(`There is no figure named "${name}".`)
      return found
    }
    case 'OperatorNode': {
      const { op, args } = node as unknown as Op
      return finite(operate(op, args.map(go)))
    }
    case 'FunctionNode': {
      const { fn, args } = node as unknown as { fn: { name?: string }; args: MathNode[] }
      const f = own(FUNCTIONS, fn.name ?? '')
      if (!f) throw new ExpressionError(`There is no function "${fn.name ?? 'here'}".`)
      return finite(f(args.map(go)))
    }
    default:
      throw new ExpressionError('Only numbers, units, figures and + - * / ^ ( ) can be used.')
  }
}

const own = <T>(table: Record<string, T>, key: string): T | undefined =>
  Object.hasOwn(table, key) ? table[key] : undefined

function finite(x: Quantity): Quantity {
  if (!Number.isFinite(x.value) || Math.abs(x.value) > 1e15) {
    throw new ExpressionError('The value is too large or not a number.')
  }
  return x
}

const kind = (x: Quantity): string =>
  x.length === 1 && x.angle === 0
    ? 'a length'
    : x.angle === 1 && x.length === 0
      ? 'an angle'
      : x.length === 0 && x.angle === 0
        ? 'a plain number'
        : x.length === 3
          ? 'a volume'
          : x.length === 2
            ? 'an area'
            : 'a mixed unit'

function operate(op: string, a: Quantity[]): Quantity {
  const [x, y] = a as [Quantity, Quantity]
  if (a.length === 1) {
    if (op === '-') return q(-x.value, x.length, x.angle)
    if (op === '+') return x
  } else if (op === '+' || op === '-') {
    if (x.length !== y.length || x.angle !== y.angle) {
      throw new ExpressionError(
        `${kind(x)} and ${kind(y)} cannot be ${op === '+' ? 'added' : 'subtracted'}.`,
      )
    }
    return q(op === '+' ? x.value + y.value : x.value - y.value, x.length, x.angle)
  } else if (op === '*') {
    return q(x.value * y.value, x.length + y.length, x.angle + y.angle)
  } else if (op === '/') {
    if (y.value === 0) throw new ExpressionError('Division by zero.')
    return q(x.value / y.value, x.length - y.length, x.angle - y.angle)
  } else if (op === '^') {
    if (y.length !== 0 || y.angle !== 0 || Math.abs(y.value) > 8) {
      throw new ExpressionError('A power must be a plain number up to 8.')
    }
    return q(x.value ** y.value, x.length * y.value, x.angle * y.value)
  }
  throw new ExpressionError(`"${op}" cannot be used in a value.`)
}

const same = (a: Quantity[], name: string): Quantity[] => {
  if (a.length === 0) throw new ExpressionError(`${name}() needs values.`)
  for (const x of a) {
    if (x.length !== a[0]!.length || x.angle !== a[0]!.angle) {
      throw new ExpressionError(`${name}() mixes ${kind(a[0]!)} and ${kind(x)}.`)
    }
  }
  return a
}
const like = (a: Quantity[], name: string, f: (...x: number[]) => number): Quantity => {
  const s = same(a, name)
  return q(f(...s.map((x) => x.value)), s[0]!.length, s[0]!.angle)
}
const one = (a: Quantity[], name: string): Quantity => {
  if (a.length !== 1) throw new ExpressionError(`${name}() takes one value.`)
  return a[0]!
}
const ratio = (a: Quantity[], name: string): number => {
  const x = one(a, name)
  if (x.length !== 0) throw new ExpressionError(`${name}() cannot take ${kind(x)}.`)
  return x.value
}

const lengths = (a: Quantity[], name: string): [number, number] => {
  if (a.length !== 2) throw new ExpressionError(`${name}() takes two values.`)
  const wrong = a.find((x) => x.angle !== 0 || x.length > 1)
  if (wrong) throw new ExpressionError(`${name}() cannot take ${kind(wrong)}.`)
  return [a[0]!.value, a[1]!.value]
}
const fitted = (a: Quantity[], fit: Fit) => {
  const made = reckonFit(one(a, `a fit`).value, fit)
  if (!made.ok) throw new ExpressionError(made.diagnosis.message)
  return made.value
}

const FUNCTIONS: Record<string, (a: Quantity[]) => Quantity> = {
  sqrt: (a) => {
    const x = one(a, 'sqrt')
    if (x.value < 0) throw new ExpressionError('The root of a negative value is not a number.')
    return q(Math.sqrt(x.value), x.length / 2, x.angle / 2)
  },
  abs: (a) => like([one(a, 'abs')], 'abs', Math.abs),
  round: (a) => like([one(a, 'round')], 'round', Math.round),
  floor: (a) => like([one(a, 'floor')], 'floor', Math.floor),
  ceil: (a) => like([one(a, 'ceil')], 'ceil', Math.ceil),
  min: (a) => like(a, 'min', Math.min),
  max: (a) => like(a, 'max', Math.max),
  hypot: (a) => like(a, 'hypot', Math.hypot),
  sin: (a) => q(Math.sin(ratio(a, 'sin'))),
  cos: (a) => q(Math.cos(ratio(a, 'cos'))),
  tan: (a) => q(Math.tan(ratio(a, 'tan'))),
  asin: (a) => q(Math.asin(ratio(a, 'asin')), 0, 1),
  acos: (a) => q(Math.acos(ratio(a, 'acos')), 0, 1),
  atan: (a) => q(Math.atan(ratio(a, 'atan')), 0, 1),
  // Plain numbers given to these are mm.
  around: (a) => q(clearing(...lengths(a, 'around'), true), 1),
  inside: (a) => q(clearing(...lengths(a, 'inside'), false), 1),
  lines: (a) => q(printedWall(...lengths(a, 'lines')), 1),
  ...Object.fromEntries(
    (Object.keys(FITS) as Fit[]).flatMap((f) => [
      [`hole_${f}`, (a: Quantity[]) => q(fitted(a, f).drawHole, 1)],
      [`shaft_${f}`, (a: Quantity[]) => q(fitted(a, f).drawShaft, 1)],
    ]),
  ),
  atan2: (a) => q(Math.atan2(same(a, 'atan2')[0]!.value, a[1]?.value ?? 1), 0, 1),
}

const WANT: Record<Dimension, { length: number; angle: number; word: string }> = {
  length: { length: 1, angle: 0, word: 'a length' },
  angle: { length: 0, angle: 1, word: 'an angle' },
  volume: { length: 3, angle: 0, word: 'a volume' },
  number: { length: 0, angle: 0, word: 'a plain number' },
}

/**
 * A value as a plain number: mm for lengths, rad for angles, mm3 for volumes. A value without a unit
 * is read in `unit` (length), degrees (angle) or ml (volume).
 */
export function inDimension(x: Quantity, want: Dimension, unit: LengthUnit): number {
  const w = WANT[want]
  if (x.length === w.length && x.angle === w.angle) return x.value
  if (x.length === 0 && x.angle === 0) {
    if (want === 'length') return x.value * (unit === 'in' ? 25.4 : 1)
    if (want === 'angle') return (x.value * Math.PI) / 180
    return x.value * 1000
  }
  throw new ExpressionError(`This is ${kind(x)}; ${w.word} is wanted here.`)
}
