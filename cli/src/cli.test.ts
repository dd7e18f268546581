import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'

const root = fileURLToPath(new URL('../..', import.meta.url))
const cruet = path.join(root, 'demo/set/oil-cruet.lathe.json')
const dir = mkdtempSync(path.join(os.tmpdir(), 'ivory-'))
const ivory = (...args: string[]) => {
  const r = spawnSync('node', ['--import', 'tsx', path.join(root, 'cli/src/main.ts'), ...args], {
    cwd: root,
    encoding: 'utf8',
  })
  return { code: r.status, out: r.stdout, err: r.stderr }
}

it('measures a workpiece as JSON', () => {
  const r = ivory('measure', cruet, '--json')
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
  expect(m.bodies[0].wall.min_mm).toBeCloseTo(3, 3)
  expect(m.ops).toHaveLength(11)
  expect(m.ops.every((o: { status: string }) => o.status === 'ok')).toBe(true)
})
it('exports STL, STEP, 3MF, OBJ and SVG, and measures the first two again', () => {
  const want = JSON.parse(ivory('measure', cruet, '--json').out).bodies[0].volume_mm3
  for (const f of ['stl', 'step', '3mf', 'obj', 'svg']) {
    expect(
      ivory('export', cruet, '--to', path.join(dir, `c.${f}`), '--tolerance', '0.02').code,
    ).toBe(0)
  }
  const stl = JSON.parse(ivory('measure', path.join(dir, 'c.stl'), '--json').out).bodies[0]
  expect(stl).toMatchObject({ kind: 'mesh', closed: true })
  expect(Math.abs(stl.volume_mm3 / want - 1)).toBeLessThan(0.005)
  const step = JSON.parse(ivory('measure', path.join(dir, 'c.step'), '--json').out).bodies[0]
  expect(step).toMatchObject({ kind: 'exact', closed: true, valid: true })
  expect(Math.abs(step.volume_mm3 / want - 1)).toBeLessThan(1e-6)
  expect(readFileSync(path.join(dir, 'c.svg'), 'utf8')).toMatch(/width="[\d.]+mm"/)
})
it('check is 0 for a part that meets its brief, 1 with the reason for one that does not', () => {
  expect(ivory('check', cruet).code).toBe(0)
  const doc = JSON.parse(readFileSync(cruet, 'utf8'))
  doc.brief.targets.capacity = { min: 300 }
  const path1 = path.join(dir, 'small.lathe.json')
  writeFileSync(path1, JSON.stringify(doc))
  const r = ivory('check', path1)
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
])('refuses %s with exit 2 and no stack', (args, why) => {
  const r = ivory(...(args as string[]))
  expect(r.code).toBe(2)
  expect(r.err).toMatch(why)
  expect(r.err).not.toMatch(/\n\s+at /)
})
