import { bad, good, type Outcome } from '../../math'
import type { TriMesh } from '../types'
import { ofPolygons } from './polygons'

/** Of each type of number how many bytes it has, and how it is read. */
const TYPES = {
  char: { size: 1, get: 'getInt8' },
  uchar: { size: 1, get: 'getUint8' },
  short: { size: 2, get: 'getInt16' },
  ushort: { size: 2, get: 'getUint16' },
  int: { size: 4, get: 'getInt32' },
  uint: { size: 4, get: 'getUint32' },
  float: { size: 4, get: 'getFloat32' },
  double: { size: 8, get: 'getFloat64' },
} as const
type NumberType = (typeof TYPES)[keyof typeof TYPES]

/** The newer names of the same. */
const ALSO: Readonly<Record<string, keyof typeof TYPES>> = {
  int8: 'char',
  uint8: 'uchar',
  int16: 'short',
  uint16: 'ushort',
  int32: 'int',
  uint32: 'uint',
  float32: 'float',
  float64: 'double',
}

interface Property {
  name: string
  type: NumberType
  /** Of a list, what counts its numbers. */
  count: NumberType | null
}
interface Element {
  name: string
  count: number
  properties: Property[]
}
/** Gives the next number of a body, of a type where it is binary; NaN where there is none. */
type Next = (type: NumberType) => number

/**
 * A mesh from a PLY file, text or binary of either order of bytes: its elements `vertex` (x, y, z) and `face` (`vertex_indices` or
 * `vertex_index`, of any number of corners); other elements and properties are passed over.
 */
export function readPly(bytes: Uint8Array): Outcome<TriMesh> {
  const end = endOfHeader(bytes)
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, end)).split(/\r\n|\n|\r/)
  if (head[0]?.trim() !== 'ply' || end === 0)
    return bad('not-ply', 'The file is not a PLY file, or its head is cut short.')
  const read = headerOf(head)
  if (!read.ok) return read
  const { format, elements } = read.value
  const next =
    format === 'ascii'
      ? words(new TextDecoder('latin1').decode(bytes.subarray(end)))
      : numbers(bytes.subarray(end), format === 'binary_little_endian')
  return bodyOf(elements, next)
}

/** Where the body begins: behind the line that ends the head; 0 where there is none. */
function endOfHeader(bytes: Uint8Array): number {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 1 << 16))
  const found = /(?:^|[\r\n])end_header[ \t]*(\r\n|\n|\r)/.exec(text)
  return found ? found.index + found[0].length : 0
}

function headerOf(lines: readonly string[]): Outcome<{ format: string; elements: Element[] }> {
  let format = ''
  const elements: Element[] = []
  for (const line of lines) {
    const [word, ...rest] = line.trim().split(/\s+/)
    if (word === 'format') format = rest[0] ?? ''
    if (word === 'element')
      elements.push({ name: rest[0] ?? '', count: Number(rest[1]), properties: [] })
    if (word !== 'property') continue
    const list = rest[0] === 'list'
    const [count, type, name] = list ? rest.slice(1) : [null, ...rest]
    const types = [list ? typeOf(count) : null, typeOf(type)] as const
    if (types[0] === undefined || !types[1])
      return bad(
        'bad-ply',
        `The PLY file has a property of a type that is not known: "${line.trim()}".`,
      )
    elements[elements.length - 1]?.properties.push({
      name: name ?? '',
      type: types[1],
      count: types[0],
    })
  }
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format))
    return bad('bad-ply', `The PLY file is of a format that is not known: "${format}".`)
  if (!elements.every((e) => Number.isInteger(e.count) && e.count >= 0))
    return bad('bad-ply', 'The PLY file does not say how many of its elements there are.')
  return good({ format, elements })
}

const typeOf = (name: string | null | undefined): NumberType | undefined =>
  TYPES[(ALSO[name ?? ''] ?? name) as keyof typeof TYPES]

function words(text: string): Next {
  const each = text.matchAll(/\S+/g)
  return () => {
    const { value, done } = each.next()
    return done ? Number.NaN : Number(value[0])
  }
}

function numbers(bytes: Uint8Array, little: boolean): Next {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 0
  return ({ size, get }) => {
    if (at + size > bytes.length) return Number.NaN
    const value = view[get](at, little)
    at += size
    return value
  }
}

function bodyOf(elements: readonly Element[], next: Next): Outcome<TriMesh> {
  const positions: number[] = []
  const faces: number[][] = []
  for (const { name, count, properties } of elements) {
    // What has no properties has no bytes either, however many it says there are.
    if (properties.length === 0) continue
    for (let i = 0; i < count; i++) {
      const place = [Number.NaN, Number.NaN, Number.NaN]
      for (const p of properties) {
        const many = p.count ? next(p.count) : 1
        if (!(many >= 0)) return cutShort(name, i)
        const values: number[] = []
        while (values.length < many) {
          const value = next(p.type)
          if (Number.isNaN(value)) return cutShort(name, i)
          values.push(value)
        }
        const axis = name === 'vertex' ? ['x', 'y', 'z'].indexOf(p.name) : -1
        if (axis >= 0) place[axis] = values[0]!
        if (name === 'face' && /^vertex_ind(ex|ices)$/.test(p.name)) faces.push(values)
      }
      if (name === 'vertex') positions.push(...place)
    }
  }
  const n = positions.length / 3
  if (!faces.some((f) => f.length > 2)) return bad('empty-ply', 'The PLY file holds no triangle.')
  if (
    !positions.every(Number.isFinite) ||
    !faces.flat().every((c) => Number.isInteger(c) && c >= 0 && c < n)
  )
    return bad(
      'bad-ply',
      'The PLY file holds places or corners that are not numbers, or not there.',
    )
  return good(ofPolygons(positions, faces))
}

const cutShort = (name: string, i: number) =>
  bad('bad-ply', `The PLY file ends, or holds what is no number, at its ${name} ${i + 1}.`)
