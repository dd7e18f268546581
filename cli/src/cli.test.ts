import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'
import { ivory as carryOut } from './ivory'

const root = fileURLToPath(new URL('../..', import.meta.url))
const cruet = path.join(root, 'demo/set/oil-cruet.lathe.json')
const dir = mkdtempSync(path.join(os.tmpdir(), 'ivory-'))
const ivory = async (...args: string[]) => {
  const { code, out, err } = await carryOut(args)
  return { code, out: out.join('\n'), err: err.join('\n') }
}

it('measures a workpiece as JSON', async () => {
  const r = await ivory('measure', cruet, '--json')
  expect(r.code).toBe(0)
  const m = JSON.parse(r.out)
  expect(m.units).toBe('mm')
  expect(m.bodies[0]).toMatchObject({
    id: 'turn',
    name: 'Cruet',
    kind: 'turned',
    closed: true,
    valid: true,
  })
  const { wall, mass_g, volume_mm3, tipping, centre_of_gravity_mm } = m.bodies[0]
  expect(wall.min_mm).toBeCloseTo(3, 3)
  // Each extreme has its place on the section; mass is volume times density (stoneware, 2.4 g/cm3).
  expect(wall.max_at.r).toBeGreaterThan(0)
  expect(wall.max_at.z).toBeLessThan(126)
  expect(mass_g).toBeCloseTo((volume_mm3 / 1000) * 2.4, 9)
  expect(centre_of_gravity_mm[2]).toBeCloseTo(46.88, 2)
  expect(tipping.empty_deg).toBeLessThan(tipping.filled_deg)
  expect(m.ops).toHaveLength(11)
  expect(m.ops.every((o: { status: string }) => o.status === 'ok')).toBe(true)
})
it('exports STL, STEP, 3MF, OBJ and SVG, and measures the first two again', async () => {
  const want = JSON.parse((await ivory('measure', cruet, '--json')).out).bodies[0].volume_mm3
  for (const f of ['stl', 'step', '3mf', 'obj', 'svg']) {
    expect(
      (await ivory('export', cruet, '--to', path.join(dir, `c.${f}`), '--tolerance', '0.02')).code,
    ).toBe(0)
  }
  const stl = JSON.parse((await ivory('measure', path.join(dir, 'c.stl'), '--json')).out).bodies[0]
  expect(stl).toMatchObject({ kind: 'mesh', closed: true })
  expect(Math.abs(stl.volume_mm3 / want - 1)).toBeLessThan(0.005)
  const step = JSON.parse((await ivory('measure', path.join(dir, 'c.step'), '--json')).out)
    .bodies[0]
  expect(step).toMatchObject({ kind: 'exact', closed: true, valid: true })
  expect(Math.abs(step.volume_mm3 / want - 1)).toBeLessThan(1e-6)
  expect(readFileSync(path.join(dir, 'c.svg'), 'utf8')).toMatch(/width="[\d.]+mm"/)
})
it('check is 0 for a part that meets its brief, 1 with the reason for one that does not', async () => {
  expect((await ivory('check', cruet)).code).toBe(0)
  const doc = JSON.parse(readFileSync(cruet, 'utf8'))
  doc.brief.targets.capacity = { min: 300 }
  const path1 = path.join(dir, 'small.lathe.json')
  writeFileSync(path1, JSON.stringify(doc))
  const r = await ivory('check', path1)
  expect(r.code).toBe(1)
  expect(r.out).toMatch(/Capacity to the brim is out: 248/)
})
it.each([
  [['measure', '/nowhere.lathe.json'], /cannot be read/],
  [['measure', path.join(root, 'package.json')], /lacks "format"/],
  [['measure', path.join(root, 'README.md')], /Only \.lathe\.json/],
  [['export', cruet, '--to', 'x.gif'], /none of/],
  [['export', cruet, '--to', 'x.stl', '--tolerance', 'wide'], /number in mm/],
  [['sing'], /ivory measure/],
])('refuses %s with exit 2 and no stack', async (args, why) => {
  const r = await ivory(...(args as string[]))
  expect(r.code).toBe(2)
  expect(r.err).toMatch(why)
  expect(r.err).not.toMatch(/\n\s+at /)
})

const sample = (name: string, doc: unknown) => {
  const file = path.join(dir, name)
  writeFileSync(file, typeof doc === 'string' ? doc : JSON.stringify(doc))
  return file
}
const read = () => JSON.parse(readFileSync(cruet, 'utf8'))

it('measure is 1 where an op fails or there is no body, and says which', async () => {
  const failing = read()
  failing.route.find((o: { kind: string }) => o.kind === 'shell').inputs.wall = 400
  const r = await ivory('measure', sample('thick.lathe.json', failing), '--json')
  expect(r.code).toBe(1)
  expect(r.err).toMatch(/Op 60 shell fails/)
  expect(JSON.parse(r.out).ops).toHaveLength(11)
  const bare = await ivory('measure', sample('bare.lathe.json', { ...read(), route: [] }))
  expect(bare).toMatchObject({ code: 1, err: 'There is no body to measure.' })
})
it('check does not pass while a gauge has no reading, and says why', async () => {
  const doc = read()
  doc.gauges.push({ id: 'lost', kind: 'wall', body: 'nobody', params: {} })
  const r = await ivory('check', sample('unread.lathe.json', doc))
  expect(r.code).toBe(1)
  expect(r.out).toMatch(/Wall cannot be read: The body "nobody" is not there/)
  expect(r.out).toMatch(/7 gauges read, none out, 1 without a reading/)
})
it('an open STL is told by the number of its edges and where', async () => {
  const facet = (a: string, b: string, c: string) =>
    `facet normal 0 0 0 outer loop vertex ${a} vertex ${b} vertex ${c} endloop endfacet`
  const [o, x, y, z] = ['0 0 0', '30 0 0', '0 30 0', '0 0 30']
  const faces = [facet(o, y, x), facet(o, x, z), facet(o, z, y), facet(x, y, z)]
  const stl = (list: string[]) => `solid t ${list.join(' ')} endsolid t`
  const whole = await ivory('measure', sample('whole.stl', stl(faces)), '--json')
  expect(JSON.parse(whole.out).bodies[0]).toMatchObject({ closed: true, valid: true })
  const open = await ivory('measure', sample('open.stl', stl(faces.slice(1))))
  expect(open.out).toMatch(/3 edges with one side open \(near 15\.0 \/ 0\.0 \/ 0\.0/)
  // A sliver that welding makes degenerate opens nothing.
  const sliver = await ivory(
    'measure',
    sample('sliver.stl', stl([...faces, facet(x, x, z)])),
    '--json',
  )
  expect(JSON.parse(sliver.out).bodies[0].closed).toBe(true)
})
it('as a process: the exit code, both streams, and a limit of time', () => {
  const run = (...args: string[]) =>
    spawnSync('node', [path.join(root, 'dist/ivory.js'), ...args], { encoding: 'utf8' })
  const good = run('measure', cruet, '--json')
  expect(good.status).toBe(0)
  expect(JSON.parse(good.stdout).bodies[0].name).toBe('Cruet')
  expect(run('sing')).toMatchObject({ status: 2, stdout: '' })
  expect(run('measure', cruet, '--limit', '0.001')).toMatchObject({
    status: 2,
    stderr: 'It took longer than 0.001 s and was stopped.\n',
  })
})
