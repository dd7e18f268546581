import { beforeAll, describe, expect, it } from 'vitest'
import { loadShapes, type ShapeStore } from '../exact'
import type { Kernel } from '../kernel'
import { measureMesh, readStl } from '../mesh'
import { inPlace, RebuildCache, readGauges, rebuild, rebuildWith } from '../rebuild'
import { emptyWorkpiece, packFile, unpackFile, type Workpiece } from '../workpiece'
import { ringRoute } from '../workpiece/samples.test-data'
import { measureWorkpiece, release } from '.'

let kernel: Kernel
let shapes: ShapeStore
let ring: Uint8Array
const theShapes = () => Promise.resolve(shapes)
const settled = (w: Workpiece, cache?: RebuildCache) => rebuildWith(w, inPlace(w, theShapes), cache)

/** A torus, tube radius 10 about radius 40. */
const turned: Workpiece = {
  ...emptyWorkpiece('ring', 'Ring'),
  route: ringRoute,
}
/** Pappus: volume 2 pi^2 R r^2 and area 4 pi^2 R r. */
const VOLUME = 2 * Math.PI ** 2 * 40 * 100
const AREA = 4 * Math.PI ** 2 * 40 * 10

const bringing = (bytes: Uint8Array, more: Workpiece['route'] = []): Workpiece => {
  const packed = packFile('Ring.step', bytes)
  if (!packed.ok) throw new Error(packed.diagnosis.message)
  const { id, file } = packed.value
  return {
    ...emptyWorkpiece('w', 'With a ring'),
    files: { [id]: file },
    route: [
      { id: 'import1', number: 10, kind: 'import', name: 'Bring in', inputs: { file: id } },
      ...more,
    ],
    brief: { purpose: '', material: 'petg', targets: {} },
    gauges: ['mass', 'height', 'wall', 'poles'].map((kind) => ({ id: kind, kind, params: {} })),
  }
}

beforeAll(async () => {
  shapes = await loadShapes()
  kernel = shapes.kernel
  const made = release(turned, rebuild(turned), 'step', { shapes })
  if (!made.ok) throw new Error(made.diagnosis.message)
  ring = made.value.bytes
})

describe('a body from a STEP file', () => {
  it('waits for the kernel, then stands in the route and is read once', async () => {
    const w = bringing(ring)
    const cache = new RebuildCache()
    const first = rebuild(w, cache)
    expect(first.waits).toMatchObject([{ verb: 'step', args: { file: Object.keys(w.files!)[0] } }])
    expect(first.reports[0]).toMatchObject({ status: 'waits' })
    const built = await settled(w, cache)
    expect(built.reports[0]).toMatchObject({ status: 'ok', consequence: '79.0 cm³, exact' })
    const again = await rebuildWith(w, () => Promise.reject(new Error('asked twice')), cache)
    expect(again.reports[0]!.reused).toBe(true)
    expect(kernel.live).toBe(shapes.size)
  })
  it('is measured by the kernel (volume and area after Pappus)', async () => {
    const { report } = await measureWorkpiece(bringing(ring), theShapes)
    const b = report.bodies[0]!
    expect(b).toMatchObject({ kind: 'exact', closed: true, valid: true, name: 'Ring' })
    expect(b.wall!.min_mm).toBeCloseTo(20, 0)
    expect(b.volume_mm3 / VOLUME).toBeCloseTo(1, 9)
    expect(b.area_mm2 / AREA).toBeCloseTo(1, 9)
    expect(b.bounds.max[0]).toBeCloseTo(50, 4)
  })
  it('has mass, size and wall; gauges of a half-section say why they cannot read it', async () => {
    const w = bringing(ring)
    const [mass, height, wall, poles] = readGauges(w, await settled(w))
    expect(mass!.reading!.low).toBeCloseTo((VOLUME / 1000) * 1.27, 6)
    expect(height!.reading!.low).toBeCloseTo(20, 4)
    // A ball of the tube's own radius fits all over.
    expect(wall!.reading!.low).toBeGreaterThan(19.85)
    expect(wall!.reading!.high).toBeLessThan(20.05)
    expect(poles).toMatchObject({
      reading: null,
      why: expect.stringContaining('no half-section'),
    })
  })
  it('is hollowed like any other', async () => {
    const shell = {
      id: 'hollow',
      number: 20,
      kind: 'shell',
      name: 's',
      inputs: { body: 'import1', wall: 2, open: [], side: 'in' },
    }
    const built = await settled(bringing(ring, [shell]))
    expect(built.reports[1]).toMatchObject({ status: 'ok' })
    const shape = built.state.bodies.import1!.shape
    // Between tori of tube radius 10 and 8.
    expect(shape.kind === 'exact' && shape.measure.volume / VOLUME).toBeCloseTo(1 - 0.64, 6)
  })
  it.each(['stl', 'obj', '3mf', 'step'] as const)('leaves again as %s', async (format) => {
    const w = bringing(ring)
    const built = await settled(w)
    expect(release(w, built, format, {}).ok).toBe(false)
    const made = release(w, built, format, { shapes, chord: 0.05 })
    if (!made.ok) throw new Error(made.diagnosis.message)
    if (format === 'stl') {
      const mesh = readStl(made.value.bytes)
      if (!mesh.ok) throw new Error(mesh.diagnosis.message)
      const m = measureMesh(mesh.value)
      expect(m.closed).toBe(true)
      expect(Math.abs(m.volume - VOLUME)).toBeLessThan(AREA * 0.05)
    }
    if (format === 'step') {
      const solid = kernel.fromStep(made.value.bytes)
      expect(kernel.measure(solid).volume / VOLUME).toBeCloseTo(1, 9)
      kernel.free(solid)
    }
    expect(kernel.live).toBe(shapes.size)
  })
  it('has no half-section: its drawing shows views', async () => {
    const w = bringing(ring)
    const made = release(w, await settled(w), 'svg', {})
    if (!made.ok) throw new Error(made.diagnosis.message)
    expect(new TextDecoder().decode(made.value.bytes)).toContain('three views and a section')
  })
  it.each([
    ['text', new TextEncoder().encode('hello'), /not a readable STEP/],
    ['cut off', undefined, /STEP|solid/],
  ])('a broken file (%s) fails in one sentence', async (_, bytes, said) => {
    const w = bringing(bytes ?? ring.slice(0, ring.length / 2))
    const built = await settled(w)
    expect(built.reports[0]).toMatchObject({ status: 'fail' })
    expect(built.reports[0]!.diagnoses[0]!.message).toMatch(said)
    expect(kernel.live).toBe(shapes.size)
  })
})

describe('kept files', () => {
  it('come back byte for byte, under an id of their contents', () => {
    const one = packFile('a.step', ring)
    const two = packFile('b.step', ring)
    const other = packFile('a.step', ring.slice(1))
    if (!one.ok || !two.ok || !other.ok) throw new Error('not packed')
    expect(two.value.id).toBe(one.value.id)
    expect(other.value.id).not.toBe(one.value.id)
    expect(unpackFile(one.value.file)).toEqual({ ok: true, value: ring })
  })
  it('an empty file, a damaged one and one that is missing are told', () => {
    expect(packFile('a', new Uint8Array())).toMatchObject({ diagnosis: { code: 'empty-file' } })
    expect(unpackFile({ name: 'a', data: 'AAAA' })).toMatchObject({
      diagnosis: { code: 'damaged' },
    })
    const w = { ...bringing(ring), files: {} }
    expect(rebuild(w).reports[0]).toMatchObject({ diagnoses: [{ code: 'no-file' }] })
  })
})
