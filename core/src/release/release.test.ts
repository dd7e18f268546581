import { strFromU8, unzipSync } from 'fflate'
import { expect, it } from 'vitest'
import { measureMesh, readStl, writeStl } from '../mesh'
import { turnedOf } from '../ops'
import { rebuild } from '../rebuild'
import { volumeOf } from '../turned'
import { emptyWorkpiece, type Workpiece } from '../workpiece'
import { ringRoute } from '../workpiece/samples.test-data'
import { FINENESS, type Format, fileStem, measureFile, release, volumeDeviation } from '.'

const w: Workpiece = {
  ...emptyWorkpiece('w', 'Ring & <Rim>'),
  bodies: { turn: { name: 'Ring "one"', color: '#aabbcc' } },
  route: ringRoute,
}
const built = rebuild(w)
const body = built.state.bodies.turn!
const made = (format: Exclude<Format, 'pdf'>, chord = 0.05) => {
  const r = release(w, built, format, { chord, angle: 0.2 })
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}

it.each(Object.entries(FINENESS))(
  'STL, %s: read again it has the volume within what is stated',
  (_, f) => {
    const r = release(w, built, 'stl', f)
    if (!r.ok) throw new Error(r.diagnosis.message)
    const mesh = readStl(r.value.bytes)
    if (!mesh.ok) throw new Error(mesh.diagnosis.message)
    const m = measureMesh(mesh.value)
    expect(m.closed).toBe(true)
    expect(Math.abs(m.volume - volumeOf(turnedOf(body)))).toBeLessThan(
      volumeDeviation(body, f.chord),
    )
  },
)
it('3MF holds named, coloured bodies in millimetres', () => {
  const model = strFromU8(unzipSync(made('3mf').bytes)['3D/3dmodel.model']!)
  expect(model).toContain('unit="millimeter"')
  expect(model).toContain('displaycolor="#AABBCCFF"')
  expect(model).toContain('name="Ring &#34;one&#34;"')
  const triangles = model.match(/<triangle /g)!.length
  expect(triangles).toBe(readTriangles())
})
const readTriangles = () => {
  const mesh = readStl(made('stl').bytes)
  return mesh.ok ? mesh.value.triangles.length / 3 : 0
}
it('OBJ counts the same and starts at 1', () => {
  const text = new TextDecoder().decode(made('obj').bytes)
  expect(text.match(/^f /gm)!.length).toBe(readTriangles())
  expect(
    Math.min(
      ...[...text.matchAll(/^f (\d+) (\d+) (\d+)/gm)].flatMap((m) =>
        [m[1], m[2], m[3]].map(Number),
      ),
    ),
  ).toBe(1)
})
it('the drawing is in real millimetres with its overall height', () => {
  const svg = new TextDecoder().decode(made('svg').bytes)
  const [, width, box] = /width="([\d.]+)mm".*viewBox="0 0 ([\d.]+)/.exec(svg)!
  expect(width).toBe(box)
  expect(svg).toContain('>20.00<')
  expect(svg).toContain('⌀ 100.00')
  expect(svg).not.toContain('<Rim>')
})
it('text STL is read too; broken files are refused', () => {
  const text =
    'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid'
  const r = readStl(new TextEncoder().encode(text))
  expect(r.ok && measureMesh(r.value).closed).toBe(false)
  expect(readStl(new Uint8Array(90)).ok).toBe(false)
  const cut = made('stl').bytes.slice(0, 500)
  expect(readStl(cut).ok).toBe(false)
  const bad = writeStl([
    {
      positions: Float64Array.of(0, 0, 0, Number.NaN, 0, 0, 0, 1, 0),
      triangles: Uint32Array.of(0, 1, 2),
    },
  ])
  expect(readStl(bad).ok).toBe(false)
})
it('refuses to release nothing or at a senseless tolerance', () => {
  expect(release(emptyWorkpiece('e', 'E'), rebuild(emptyWorkpiece('e', 'E')), 'stl', {}).ok).toBe(
    false,
  )
  expect(release(w, built, 'stl', { chord: Number.NaN }).ok).toBe(false)
  expect(release(w, built, 'step', {}).ok).toBe(false)
})
it('file names are plain', () => {
  expect(fileStem('Öl-Krug: “No 1” / ½')).toMatch(/^[a-z0-9-]+$/)
  expect(fileStem('???')).toBe('workpiece')
})
it('measures by the ending of the name', async () => {
  const none = async () => {
    throw new Error('no kernel here')
  }
  const r = await measureFile('a/b/Ring.stl', made('stl').bytes, none)
  expect(r.ok && r.value).toMatchObject({ name: 'Ring', bodies: [{ kind: 'mesh', closed: true }] })
  expect((await measureFile('x.doc', new Uint8Array(), none)).ok).toBe(false)
})
