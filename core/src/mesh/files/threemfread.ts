import { XMLParser } from 'fast-xml-parser'
import { strFromU8, unzipSync } from 'fflate'
import { bad, good, type Outcome } from '../../math'
import type { TriMesh } from '../types'

// 3MF core specification 1.3 with the production extension (from memory): what is built, moved as it says, in its unit.

/** How many mm a unit of the package is. */
const UNITS: Readonly<Record<string, number>> = {
  micron: 0.001,
  millimeter: 1,
  centimeter: 10,
  inch: 25.4,
  foot: 304.8,
  meter: 1000,
}
/** Objects that only help while it is printed. */
const HELPS = new Set(['support', 'solidsupport'])
/** Components within components at most: more run in a circle. */
const DEPTH = 32

type Row = Record<string, string>
interface ObjectRow {
  id: string
  type?: string
  mesh?: { vertices?: { vertex?: Row[] }; triangles?: { triangle?: Row[] } }
  components?: { component?: Row[] }
}
interface Model {
  unit?: string
  resources?: { object?: ObjectRow[] }
  build?: { item?: Row[] }
}
/** Rows of a 4 x 3 matrix that places, as rows, are multiplied with. */
type Placing = readonly number[]
const HERE: Placing = [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]

const many = new Set(['object', 'vertex', 'triangle', 'item', 'component', 'Relationship'])
const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  isArray: (n) => many.has(n),
})

/** What a 3MF package has built, one mesh for each mesh that an item leads to, mm; supports are left out. */
export function readThreeMf(bytes: Uint8Array): Outcome<TriMesh[]> {
  let files: Record<string, Uint8Array>
  try {
    files = unzipSync(bytes, { filter: (f) => /\.(model|rels)$/i.test(f.name) })
  } catch {
    return bad('not-3mf', 'The file is not a 3MF package, or it is cut short.')
  }
  const models = new Map<string, Model>()
  for (const [name, data] of Object.entries(files))
    if (/\.model$/i.test(name))
      models.set(plain(name), (parser.parse(strFromU8(data)) as { model?: Model }).model ?? {})
  const start = rootOf(files) ?? [...models.keys()][0]
  const root = start === undefined ? undefined : models.get(start)
  if (start === undefined || !root) return bad('not-3mf', 'The 3MF package holds no model.')
  const scale = UNITS[root.unit ?? 'millimeter']
  if (scale === undefined)
    return bad('3mf-unit', `The 3MF package is in "${root.unit}", a unit that is not known.`)
  const out: TriMesh[] = []
  const add = (path: string, id: string, placing: Placing, depth: number): string | null => {
    const object = models.get(path)?.resources?.object?.find((o) => o.id === id)
    if (!object) return `The 3MF package builds an object ${id} that is not there.`
    if (HELPS.has(object.type ?? 'model')) return null
    if (depth > DEPTH) return 'The 3MF package holds components that are made of each other.'
    if (object.mesh) {
      const mesh = meshOf(object.mesh, placing, scale)
      if (typeof mesh === 'string') return mesh
      out.push(mesh)
    }
    for (const c of object.components?.component ?? []) {
      const own = placingOf(c.transform)
      if (!own) return 'The 3MF package holds a transform that is not twelve numbers.'
      const where = c.path === undefined ? path : plain(c.path)
      const wrong = add(where, c.objectid!, after(own, placing), depth + 1)
      if (wrong) return wrong
    }
    return null
  }
  for (const item of itemsOf(root)) {
    const placing = placingOf(item.transform)
    if (!placing)
      return bad('bad-3mf', 'The 3MF package holds a transform that is not twelve numbers.')
    const wrong = add(
      item.path === undefined ? start : plain(item.path),
      item.objectid!,
      placing,
      0,
    )
    if (wrong) return bad('bad-3mf', wrong)
  }
  return out.length > 0 ? good(out) : bad('empty-3mf', 'The 3MF package builds nothing.')
}

/** Paths within a package begin with a stroke or not. */
const plain = (path: string): string => path.replace(/^\/+/, '')

/** The model that the package says it starts with. */
function rootOf(files: Record<string, Uint8Array>): string | null {
  const rels = files['_rels/.rels']
  if (!rels) return null
  const read = parser.parse(strFromU8(rels)) as { Relationships?: { Relationship?: Row[] } }
  const start = read.Relationships?.Relationship?.find((r) => r.Type?.endsWith('/3dmodel'))
  return start?.Target === undefined ? null : plain(start.Target)
}

/** What is to be built; where that is not said, all objects that are part of no other. */
function itemsOf({ build, resources }: Model): Row[] {
  if (build?.item) return build.item
  const all = resources?.object ?? []
  const used = new Set(all.flatMap((o) => (o.components?.component ?? []).map((c) => c.objectid)))
  return all.flatMap((o) => (used.has(o.id) ? [] : [{ objectid: o.id }]))
}

function placingOf(text: string | undefined): Placing | null {
  if (text === undefined) return HERE
  const m = text.trim().split(/\s+/).map(Number)
  return m.length === 12 && m.every(Number.isFinite) ? m : null
}

/** First `a`, then `b`. */
function after(a: Placing, b: Placing): Placing {
  const row = (i: number) =>
    [0, 1, 2].map(
      (k) =>
        a[3 * i]! * b[k]! +
        a[3 * i + 1]! * b[3 + k]! +
        a[3 * i + 2]! * b[6 + k]! +
        (i === 3 ? b[9 + k]! : 0),
    )
  return [0, 1, 2, 3].flatMap(row)
}

/** A mesh where it is placed, mm; a sentence where its numbers are none. Seen in a mirror its triangles are turned. */
function meshOf(mesh: NonNullable<ObjectRow['mesh']>, m: Placing, scale: number): TriMesh | string {
  const numbers = (rows: Row[] | undefined, keys: string[]) =>
    (rows ?? []).flatMap((r) => keys.map((k) => Number(r[k])))
  const raw = numbers(mesh.vertices?.vertex, ['x', 'y', 'z'])
  const mirrored =
    m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
      m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) +
      m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!) <
    0
  const triangles = numbers(
    mesh.triangles?.triangle,
    mirrored ? ['v1', 'v3', 'v2'] : ['v1', 'v2', 'v3'],
  )
  if (triangles.length === 0) return 'The 3MF package holds an object without triangles.'
  if (!raw.every(Number.isFinite) || !triangles.every((v) => v >= 0 && 3 * v < raw.length))
    return 'The 3MF package holds corners that are not there.'
  const positions = Float64Array.from(raw, (_, i) => {
    const [v, k] = [i - (i % 3), i % 3]
    return scale * (raw[v]! * m[k]! + raw[v + 1]! * m[3 + k]! + raw[v + 2]! * m[6 + k]! + m[9 + k]!)
  })
  return { positions, triangles: Uint32Array.from(triangles) }
}
