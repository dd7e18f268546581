import { XMLParser } from 'fast-xml-parser'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { bad, good, type Outcome } from '../../math'
import type { TriMesh } from '../types'

/** Where the package keeps its model. */
const MODEL = '3D/3dmodel.model'

const xmlText = (s: string) => s.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`)

/** 3MF package (core specification, with a base material for each body's name and colour). */
export function writeThreeMf(
  bodies: readonly { name: string; color: string; mesh: TriMesh }[],
  title: string,
): Uint8Array {
  const materials = bodies
    .map((b) => `<base name="${xmlText(b.name)}" displaycolor="${b.color.toUpperCase()}FF"/>`)
    .join('')
  const objects = bodies.map((b, i) => object(b.name, b.mesh, i)).join('')
  const items = bodies.map((_, i) => `<item objectid="${i + 2}"/>`).join('')
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><metadata name="Title">${xmlText(title)}</metadata><resources><basematerials id="1">${materials}</basematerials>${objects}</resources><build>${items}</build></model>`
  return zipSync({
    '[Content_Types].xml': strToU8(
      '<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>',
    ),
    '_rels/.rels': strToU8(
      '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>',
    ),
    [MODEL]: strToU8(model),
  })
}

function object(name: string, { positions: p, triangles: t }: TriMesh, i: number): string {
  const v: string[] = []
  for (let k = 0; k < p.length; k += 3) {
    v.push(
      `<vertex x="${+p[k]!.toFixed(6)}" y="${+p[k + 1]!.toFixed(6)}" z="${+p[k + 2]!.toFixed(6)}"/>`,
    )
  }
  const f: string[] = []
  for (let k = 0; k < t.length; k += 3)
    f.push(`<triangle v1="${t[k]}" v2="${t[k + 1]}" v3="${t[k + 2]}"/>`)
  return `<object id="${i + 2}" type="model" name="${xmlText(name)}" pid="1" pindex="${i}"><mesh><vertices>${v.join('')}</vertices><triangles>${f.join('')}</triangles></mesh></object>`
}

const many = new Set(['object', 'vertex', 'triangle'])

/** The meshes of a 3MF package, one an object, in mm. */
export function readThreeMf(bytes: Uint8Array): Outcome<TriMesh[]> {
  let xml: string
  try {
    xml = strFromU8(unzipSync(bytes, { filter: (f) => f.name === MODEL })[MODEL]!)
  } catch {
    return bad('not-3mf', 'The file is not a 3MF package, or it is cut short.')
  }
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    isArray: (n) => many.has(n),
  })
  type Row = Record<string, string>
  const doc = parser.parse(xml) as {
    model?: {
      unit?: string
      resources?: {
        object?: { mesh?: { vertices?: { vertex?: Row[] }; triangles?: { triangle?: Row[] } } }[]
      }
    }
  }
  if (doc.model?.unit !== 'millimeter')
    return bad('3mf-unit', 'The 3MF package is not in millimetres.')
  const numbers = (rows: Row[] | undefined, keys: string[]) =>
    (rows ?? []).flatMap((r) => keys.map((k) => Number(r[k])))
  const meshes = (doc.model.resources?.object ?? []).map(({ mesh }) => ({
    positions: Float64Array.from(numbers(mesh?.vertices?.vertex, ['x', 'y', 'z'])),
    triangles: Uint32Array.from(numbers(mesh?.triangles?.triangle, ['v1', 'v2', 'v3'])),
  }))
  if (meshes.length === 0 || meshes.some((m) => m.triangles.length === 0))
    return bad('empty-3mf', 'The 3MF package holds an object without triangles.')
  const sound = meshes.every(
    (m) =>
      m.positions.every(Number.isFinite) && m.triangles.every((v) => 3 * v < m.positions.length),
  )
  return sound ? good(meshes) : bad('bad-3mf', 'The 3MF package holds corners that are not there.')
}
