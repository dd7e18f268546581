import { expect, type Page, test } from '@playwright/test'
import {
  accessible,
  add,
  choose,
  circles,
  click,
  commit,
  drawing,
  level,
  line,
  look,
  newWorkpiece,
  picked,
  stage,
  typed,
} from './bench'

const SEAL = ['-32 -1.5', '32 -1.5', '32 1.5', '-32 1.5', '-32 -1.5']

/** A place of the presses, drawn on the right and on the left. */
const press = (side: 1 | -1) =>
  [
    [33, 95],
    [24.4, 114],
    [21, 133],
    [24.4, 152],
    [33, 171],
  ].map(([x, z]) => `${side * x!} ${z}`)

/** Two bays, each between a free curve through its places and a line that closes it. */
async function presses(page: Page): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'p')
  await choose(page, 'On', { label: 'front' })
  const entry = page.getByLabel('Type a place')
  for (const side of [1, -1] as const) {
    const bay = press(side)
    for (const [tool, places] of [
      ['Curve through points', bay],
      ['Lines', [bay[4]!, bay[0]!]],
    ] as const) {
      await page.getByRole('button', { name: tool, exact: true }).click()
      await typed(page, 'Type a place', places)
      await entry.press('Enter')
      await entry.press('Escape')
    }
  }
}

test('a piping tube by hand: flat to round as a chain, squeezed by two free curves, hollowed to 0.6, crimped', async ({
  page,
}) => {
  test.setTimeout(2_400_000)
  await newWorkpiece(page)
  await drawing(page, 'top', SEAL)
  for (const [n, [height, radius]] of [
    [190, 22],
    [198, 13],
    [212, 10],
  ].entries()) {
    await level(page, 'top', String(height))
    await circles(page, `Datum plane ${n + 1}`, [radius!])
  }
  await stage(page, 'Form')
  await add(page, 'l')
  await expect(page.getByTestId('section-of-loft')).toHaveCount(4)
  await choose(page, 'Runs', 'ruled')
  await expect(line(page, 'Loft 1')).toContainText('+184.8 cm³', { timeout: 300_000 })
  await presses(page)
  await stage(page, 'Form')
  await add(page, 'e')
  await choose(page, 'Result', 'cut')
  await choose(page, 'Which way', 'alike')
  await commit(page, 'Length', '88')
  await expect(line(page, 'Extrude 1')).toContainText('−1.7 cm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 's')
  await look(page, 'top')
  await click(page, 'end of Loft 1')
  await picked(page)
  await commit(page, 'Wall', '0.6')
  await expect(line(page, 'Shell 1')).toContainText('wall 0.60 mm', { timeout: 300_000 })
  await drawing(page, 'top', SEAL)
  await stage(page, 'Form')
  await add(page, 'e')
  await choose(page, 'Which way', 'against')
  await commit(page, 'Length', '7')
  await choose(page, 'Result', 'join')
  // What it made of the first figures has to end before: they stand where faces of the tube begin.
  await expect(line(page, 'Extrude 2')).toContainText('+1.3 cm³', { timeout: 1_200_000 })
  await stage(page, 'Refine')
  await add(page, 'c')
  await look(page, 'front')
  await click(page, /edge between line1 of Extrude 2 and start of Extrude 2/)
  await picked(page)
  await commit(page, 'Setback', '1.4')
  await expect(line(page, 'Chamfer 1')).toContainText(`−${((64 * 1.4 ** 2) / 2).toFixed(0)} mm³`, {
    timeout: 300_000,
  })
  await accessible(page)
})
