import { strToU8, zipSync } from 'fflate'
import type { TriMesh } from '../types'

/** Where our packages keep their model. */
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
