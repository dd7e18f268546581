import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { measureMesh, readMeshes, readObj, readThreeMf } from '..'
import { SIDES } from '../box.test-data'

// Files as other programs write them: by the 3MF core specification with its production extension, and by the OBJ format (both from
// memory). What they hold is boxes and prisms, whose volumes are closed forms.

const CORNERS = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => [i & 1, (i >> 1) & 1, i >> 2] as const)
const cube = (size: number, prefix = '') => {
  const [open, close] = [`<${prefix}`, `</${prefix}`]
  const v = CORNERS.map(
    ([x, y, z]) => `${open}vertex x="${size * x}" y="${size * y}" z="${size * z}"/>`,
  )
  const t = SIDES.map(([a, b, c]) => `${open}triangle v1="${a}" v2="${b}" v3="${c}"/>`)
  return `${open}mesh>${open}vertices>${v.join('')}${close}vertices>${open}triangles>${t.join('')}${close}triangles>${close}mesh>`
}
const pack = (model: string, more: Record<string, string> = {}, unit = ' unit="millimeter"') =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        '3D/3dmodel.model': `<model${unit} xmlns="x" xmlns:p="y">${model}</model>`,
        ...more,
      }).map(([k, x]) => [k, strToU8(x)]),
    ),
  )
const volumes = (bytes: Uint8Array) => {
  const read = readThreeMf(bytes)
  if (!read.ok) throw new Error(read.diagnosis.message)
  for (const m of read.value) expect(measureMesh(m).closed).toBe(true)
  return read.value.map((m) => measureMesh(m).volume)
}
const one = (type = '') => `<resources><object id="1"${type}>${cube(10)}</object></resources>`

describe('3MF of others', () => {
  it.each([
    ['micron', 1e-6],
    ['millimeter', 1000],
    ['centimeter', 1e6],
    ['inch', 1000 * 25.4 ** 3],
  ])('in %s', (unit, want) => {
    const got = volumes(pack(`${one()}<build><item objectid="1"/></build>`, {}, ` unit="${unit}"`))
    expect(got[0]! / want).toBeCloseTo(1, 9)
  })
  it('without a unit in millimetres; in one that is not known refused by its name', () => {
    expect(volumes(pack(`${one()}<build><item objectid="1"/></build>`, {}, ''))).toEqual([
      expect.closeTo(1000),
    ])
    expect(readThreeMf(pack(one(), {}, ' unit="ell"'))).toMatchObject({
      diagnosis: { message: expect.stringContaining('"ell"') },
    })
  })
  it('items are moved, doubled and mirrored as they say, and come as often as they are built', () => {
    const read = readThreeMf(
      pack(
        `${one()}<build><item objectid="1" transform="2 0 0 0 2 0 0 0 2 5 6 7"/><item objectid="1" transform="-1 0 0 0 1 0 0 0 1 0 0 0"/></build>`,
      ),
    )
    if (!read.ok) throw new Error(read.diagnosis.message)
    const [twice, mirrored] = read.value.map((m) => measureMesh(m))
    expect(twice!.volume).toBeCloseTo(8000, 6)
    expect(twice!.bounds).toEqual({ min: [5, 6, 7], max: [25, 26, 27] })
    expect(mirrored!.volume).toBeCloseTo(1000, 6)
    expect(mirrored!.bounds.min[0]).toBe(-10)
  })
  it('components are placed in each other; what is not built, and supports, are left out', () => {
    const parts = `<resources><object id="1">${cube(10)}</object><object id="2" type="support">${cube(3)}</object><object id="3"><components><component objectid="1" transform="2 0 0 0 1 0 0 0 1 1 0 0"/><component objectid="2"/></components></object><object id="4">${cube(99)}</object></resources>`
    const read = readThreeMf(
      pack(`${parts}<build><item objectid="3" transform="1 0 0 0 1 0 0 0 1 100 0 0"/></build>`),
    )
    if (!read.ok) throw new Error(read.diagnosis.message)
    expect(read.value).toHaveLength(1)
    expect(measureMesh(read.value[0]!).bounds).toEqual({ min: [101, 0, 0], max: [121, 10, 10] })
  })
  it('prefixes, other model paths and models of the production extension', () => {
    const other = `<m:model unit="millimeter" xmlns:m="x"><m:resources><m:object id="7">${cube(4, 'm:')}</m:object></m:resources></m:model>`
    const root = `<m:model unit="millimeter" xmlns:m="x" xmlns:p="y"><m:resources><m:object id="1"><m:components><m:component objectid="7" p:path="/3D/Objects/part.model"/></m:components></m:object></m:resources><m:build><m:item objectid="1"/></m:build></m:model>`
    const bytes = zipSync({
      '_rels/.rels': strToU8(
        '<Relationships><Relationship Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel" Target="/Models/start.model"/></Relationships>',
      ),
      'Models/start.model': strToU8(root),
      '3D/Objects/part.model': strToU8(other),
    })
    expect(volumes(bytes)).toEqual([expect.closeTo(64)])
  })
  it('components in a circle, objects that are not there and broken transforms are refused in a sentence', () => {
    const ring = `<resources><object id="1"><components><component objectid="1"/></components></object></resources><build><item objectid="1"/></build>`
    const told = (model: string) => {
      const read = readThreeMf(pack(model))
      return read.ok ? '' : read.diagnosis.message
    }
    expect(told(ring)).toMatch(/made of each other/)
    expect(told(`${one()}<build><item objectid="9"/></build>`)).toMatch(
      /object 9 that is not there/,
    )
    expect(told(`${one()}<build><item objectid="1" transform="1 2"/></build>`)).toMatch(/twelve/)
    expect(told(`${one(' type="support"')}<build><item objectid="1"/></build>`)).toMatch(/nothing/)
  })
})

describe('OBJ of others', () => {
  it('faces of many corners that turn in, groups of one body, comments, and lines that go on', () => {
    // An L of 40 x 40 with arms of 10, 8 high: area 700 (shoelace).
    const foot = [
      [0, 0],
      [40, 0],
      [40, 10],
      [10, 10],
      [10, 40],
      [0, 40],
    ]
    const n = foot.length
    const text = [
      '# an angle # twice',
      'o angle',
      ...[0, 8].flatMap((z) => foot.map(([x, y]) => `v ${x} ${y} ${z} # place`)),
      'g lower',
      `f ${foot.map((_, i) => n - i).join(' ')}`,
      'g upper',
      `f ${foot.map((_, i) => n + 1 + i).join(' \\\n ')}`,
      'g sides',
      ...foot.map((_, i) => {
        const j = (i + 1) % n
        return `f ${i + 1} ${j + 1} ${n + 1 + j} ${n + 1 + i}`
      }),
    ].join('\n')
    const read = readObj(text)
    if (!read.ok) throw new Error(read.diagnosis.message)
    expect(read.value).toHaveLength(1)
    const m = measureMesh(read.value[0]!)
    expect(m.closed).toBe(true)
    expect(m.volume).toBeCloseTo(700 * 8, 9)
    expect(m.area).toBeCloseTo(2 * 700 + 160 * 8, 9)
  })
  it('corners written once for each face are one', () => {
    const lines = SIDES.flatMap((t) => t.map((c) => `v ${CORNERS[c]!.join(' ')}`))
    const faces = SIDES.map((_, i) => `f ${3 * i + 1} ${3 * i + 2} ${3 * i + 3}`)
    const read = readObj([...lines, ...faces].join('\n'))
    if (!read.ok) throw new Error(read.diagnosis.message)
    expect(read.value[0]!.positions).toHaveLength(24)
    expect(measureMesh(read.value[0]!).closed).toBe(true)
  })
})

describe('STL of others', () => {
  const binary = (size: number, more = 0) => {
    const out = new Uint8Array(84 + 50 * SIDES.length + more)
    const view = new DataView(out.buffer)
    view.setUint32(80, SIDES.length, true)
    for (const [i, side] of SIDES.entries())
      for (const [c, corner] of side.entries())
        for (const [k, x] of CORNERS[corner]!.entries())
          view.setFloat32(84 + 50 * i + 12 + 12 * c + 4 * k, size * x, true)
    return out
  }
  const volume = (bytes: Uint8Array) => {
    const read = readMeshes('stl', bytes)
    if (!read.ok) return read.diagnosis.message
    const [m] = read.value.map(measureMesh)
    expect(m!.closed).toBe(true)
    return m!.volume
  }
  it('binary, with bytes behind its triangles, and with a head that begins as a text does', () => {
    expect(volume(binary(10))).toBeCloseTo(1000, 6)
    expect(volume(binary(10, 7))).toBeCloseTo(1000, 6)
    const headed = binary(10)
    headed.set(strToU8('solid of no text'))
    expect(volume(headed)).toBeCloseTo(1000, 6)
    expect(volume(binary(10).subarray(0, 300))).toMatch(/cut short/)
  })
  it('text in small letters and in capitals', () => {
    const facets = SIDES.map((s) => {
      const v = s.map((c) => `vertex ${CORNERS[c]!.map((x) => (4 * x).toExponential()).join(' ')}`)
      return `facet normal 0 0 0\nouter loop\n${v.join('\n')}\nendloop\nendfacet`
    })
    const text = `solid box\n${facets.join('\n')}\nendsolid box\n`
    expect(volume(strToU8(text))).toBeCloseTo(64, 6)
    expect(volume(strToU8(text.toUpperCase().replaceAll('\n', '\r\n')))).toBeCloseTo(64, 6)
  })
})

// By the format's own description (Turk, 1994; from memory).
describe('PLY', () => {
  const head = (format: string, faces: number, more = '') =>
    `ply\nformat ${format} 1.0\ncomment a box\nelement vertex 8\nproperty float x\nproperty float y\nproperty float z\n${more}element face ${faces}\nproperty list uchar int vertex_indices\nend_header\n`
  const QUADS = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  const volume = (bytes: Uint8Array) => {
    const read = readMeshes('ply', bytes)
    if (!read.ok) return read.diagnosis.message
    const [m] = read.value.map(measureMesh)
    expect(m!.closed).toBe(true)
    return m!.volume
  }
  it('text, with faces of four corners and properties of other kinds', () => {
    const rows = [
      ...CORNERS.map((c) => `${c.map((x) => 5 * x).join(' ')} 200 100 7`),
      ...QUADS.map((q) => `4 ${q.join(' ')}`),
    ]
    const colours = 'property uchar red\nproperty uchar green\nproperty uchar blue\n'
    const text = `${head('ascii', 6, colours)}${rows.join('\n')}\n`
    expect(volume(strToU8(text))).toBeCloseTo(125, 6)
    expect(volume(strToU8(text.replaceAll('\n', '\r\n')))).toBeCloseTo(125, 6)
    expect(volume(strToU8(text.slice(0, -4)))).toMatch(/ends.* at its face 6/)
    expect(volume(strToU8(text.replace('4 1 3 7 5', '4 1 3 7 9')))).toMatch(/not there/)
  })
  it.each([
    ['binary_little_endian', true],
    ['binary_big_endian', false],
  ] as const)('%s', (format, little) => {
    const text = strToU8(head(format, 6, 'property double weight\n'))
    const out = new Uint8Array(text.length + 8 * (12 + 8) + 6 * (1 + 16))
    out.set(text)
    const view = new DataView(out.buffer)
    let at = text.length
    for (const c of CORNERS) {
      for (const x of c) {
        view.setFloat32(at, 5 * x, little)
        at += 4
      }
      view.setFloat64(at, 1.5, little)
      at += 8
    }
    for (const q of QUADS) {
      view.setUint8(at++, 4)
      for (const v of q) {
        view.setInt32(at, v, little)
        at += 4
      }
    }
    expect(volume(out)).toBeCloseTo(125, 6)
    expect(volume(out.subarray(0, out.length - 1))).toMatch(/at its face 6/)
  })
  it('what is no PLY, of types not known, or of points alone is refused in a sentence', () => {
    expect(volume(strToU8('solid'))).toMatch(/not a PLY file/)
    expect(volume(strToU8(head('ascii', 0).replace('float z', 'quad z')))).toMatch(
      /"property quad z"/,
    )
    expect(volume(strToU8(head('ebcdic', 0)))).toMatch(/"ebcdic"/)
    const endless = head('ascii', 1, 'element nothing 1000000000000\n').replace(
      'element face 1\n',
      'element face 1\nproperty float weight\n',
    )
    expect(volume(strToU8(`${endless}${'0 '.repeat(24)}1 4000000000 0 1`))).toMatch(/at its face 1/)
    const points = `${head('ascii', 0)}${CORNERS.map((c) => c.join(' ')).join('\n')}\n`
    expect(volume(strToU8(points))).toMatch(/no triangle/)
  })
})
