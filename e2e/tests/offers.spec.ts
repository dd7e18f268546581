import { expect, type Page, test } from '@playwright/test'
import { line, routeRow, stage, welcomed } from './bench'

const op = (kind: string, id: string, inputs: object) => ({ id, kind, name: id, inputs })

/** A workpiece of these ops, brought in from a file. */
async function broughtIn(page: Page, name: string, ops: object[]): Promise<void> {
  const route = ops.map((o, i) => ({ ...o, number: 10 * (i + 1) }))
  const file = { format: 'ivory-lathe', version: 1, id: name, name, route }
  await welcomed(page)
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles({
    name: `${name}.lathe.json`,
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  })
  await page.waitForURL(/\/w\//)
}

test('a foot is laid onto a grooved lid: how deep the groove is, is told, and one click lays it over', async ({
  page,
}) => {
  const grooveAt = { x: 60 * Math.sin(0.35), y: 60 * Math.cos(0.35) }
  await broughtIn(page, 'lid', [
    op('profile', 'arc', {
      plane: 'front',
      drawing: {
        points: { o: { x: 0, y: 0 }, a: { x: 60, y: 0 }, m: { x: 36, y: 48 }, b: { x: 0, y: 60 } },
        entities: [
          { id: 'ground', kind: 'line', a: 'o', b: 'a' },
          { id: 'skin', kind: 'arc', a: 'a', via: 'm', b: 'b' },
        ],
      },
    }),
    op('revolve', 'lid', { profile: 'arc', mode: 'new' }),
    op('profile', 'bead', {
      plane: 'front',
      drawing: {
        points: { c: grooveAt },
        entities: [{ id: 'ring', kind: 'circle', c: 'c', radius: 1.5 }],
      },
    }),
    op('revolve', 'groove', { profile: 'bead', mode: 'cut', body: 'lid' }),
    op('cage', 'foot', {
      start: { kind: 'plane', sx: 50, sy: 30, across: 5, along: 3 },
      edits: [
        { id: 'e1', kind: 'move', on: ['all'], x: 8, y: 0, z: 70, out: 0 },
        { id: 'e2', kind: 'lay', on: ['all'], body: 'lid' },
        { id: 'e3', kind: 'thicken', by: 2.5, side: 'out' },
      ],
      within: 0.005,
      mode: 'new',
    }),
  ])
  await stage(page, 'Form')
  await routeRow(page, 'foot').click()
  await expect(page.getByText(/A hollow 1\.\d mm deep here is narrower/).first()).toBeVisible({
    timeout: 300_000,
  })
  await page
    .getByRole('button', { name: /^Lie over it/ })
    .first()
    .click()
  await expect(line(page, 'foot')).toContainText('over hollows a ball of radius', {
    timeout: 300_000,
  })
  await expect(page.getByText(/A hollow .* narrower/)).toHaveCount(0)
})

test('holes of a loft are matched another way by hand, and back', async ({ page }) => {
  const plate = (id: string, plane: string, bores: [number, number][]) =>
    op('profile', id, {
      plane,
      use: 'flat',
      drawing: {
        points: {
          p0: { x: -50, y: -30 },
          p1: { x: 50, y: -30 },
          p2: { x: 50, y: 30 },
          p3: { x: -50, y: 30 },
          ...Object.fromEntries(bores.map(([x, y], i) => [`c${i}`, { x, y }])),
        },
        entities: [
          ...[0, 1, 2, 3].map((i) => ({
            id: `side${i}`,
            kind: 'line',
            a: `p${i}`,
            b: `p${(i + 1) % 4}`,
          })),
          ...bores.map((_, i) => ({ id: `bore${i}`, kind: 'circle', c: `c${i}`, radius: 4 })),
        ],
      },
    })
  await broughtIn(page, 'block', [
    plate('low', 'top', [
      [-20, -15],
      [20, -15],
    ]),
    op('plane', 'lifted', { how: 'offset', from: 'top', offset: 40 }),
    plate('high', 'lifted', [
      [-20, 15],
      [20, 15],
    ]),
    op('loft', 'block', { sections: [{ profile: 'low' }, { profile: 'high' }], mode: 'new' }),
  ])
  await stage(page, 'Form')
  await routeRow(page, 'block').click()
  // 100 x 60 x 40 less two bores of radius 4, however they lean.
  await expect(line(page, 'block')).toContainText('+236.0 cm³', { timeout: 120_000 })
  const holes = page.getByLabel('Holes of section 2 matched')
  await holes.selectOption({ label: 'holes 2 1' })
  // Crossed over each other they meet in the middle.
  await expect(page.getByText('It goes through itself here.').first()).toBeVisible({
    timeout: 120_000,
  })
  await holes.selectOption({ label: 'holes as they lie' })
  await expect(line(page, 'block')).toContainText('+236.0 cm³', { timeout: 120_000 })
})
