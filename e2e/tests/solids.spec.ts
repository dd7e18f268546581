import { expect, test } from '@playwright/test'
import {
  add,
  choose,
  click,
  commit,
  drawLines,
  line,
  look,
  newWorkpiece,
  outline,
  picked,
  routeRow,
  saved,
  stage,
} from './bench'

test('half a clip is carried out, hollowed from below, rounded, mirrored and released', async ({
  page,
}) => {
  await newWorkpiece(page)
  await outline(page, ['0 -15', '40 -15', '40 15', '0 15'])
  await stage(page, 'Form')
  await add(page, 'e')
  await expect(line(page, 'Extrude 1')).toContainText('+12.0 cm³')
  await commit(page, 'Length', '14')
  await commit(page, 'Draft', '3 deg')
  // (14 / 6) (A + 4 M + B): a frustum of 40 x 30 that leans in by 14 tan 3 deg on every side.
  await expect(line(page, 'Extrude 1')).toContainText('+16.1 cm³')

  // The end is picked by the mouse on what is seen from above, once that is there.
  await stage(page, 'Refine')
  await add(page, 's')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  const canvas = page.getByRole('region', { name: 'Stage' }).locator('canvas')
  const box = (await canvas.boundingBox())!
  let nudge = 0
  await expect(async () => {
    nudge = 1 - nudge
    await page.mouse.move(box.x + box.width / 2 + nudge, box.y + box.height / 2)
    await expect(page.getByTestId('hover')).toContainText('end of Extrude 1', { timeout: 1000 })
  }).toPass()
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
  await expect(page.getByRole('button', { name: 'Take out end of Extrude 1' })).toBeVisible()
  await commit(page, 'Wall', '2')
  await expect(line(page, 'Shell 1')).toContainText('wall 2.00 mm', { timeout: 300_000 })

  // The range is worked out by trials of the kernel, without the page waiting for it.
  await expect(page.getByTestId('range')).toContainText('holds up to', { timeout: 300_000 })

  await add(page, 'm')
  await expect(line(page, 'Mirror 1')).toContainText('cm³')
  await expect(page.getByTestId('section')).toHaveCount(1)

  await stage(page, 'Release')
  await page.getByRole('button', { name: 'STEP', exact: true }).click()
  await expect(page.getByTestId('released')).toContainText('closed and valid', { timeout: 300_000 })
  await saved(page)

  // What was made is kept: after a reload it stands there without the kernel.
  await page.reload()
  await routeRow(page, 'Mirror 1').click()
  await expect(line(page, 'Mirror 1')).toContainText('cm³')
})

test('a row of pegs is cut out of a plate at once; two bodies, then one', async ({ page }) => {
  await newWorkpiece(page)
  await outline(page, ['-40 -10', '40 -10', '40 10', '-40 10'])
  await stage(page, 'Form')
  await add(page, 'e')
  await expect(line(page, 'Extrude 1')).toContainText('+16.0 cm³')
  await outline(page, ['-33 -3', '-27 -3', '-27 3', '-33 3'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  await expect(line(page, 'Extrude 2')).toContainText('+360 mm³')
  await stage(page, 'Refine')
  await add(page, 't')
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 2')
  await commit(page, 'How many', '6')
  await commit(page, 'Pitch', '12')
  await expect(line(page, 'Pattern 1')).toContainText('6, apart from each other')
  // In the tray each body is shown, hidden, alone, or put away.
  const tray = page.getByRole('region', { name: 'Tray of bodies' })
  await expect(page.getByTestId('section')).toHaveCount(2)
  await tray.getByRole('button', { name: 'Hide Extrude 2' }).click()
  await expect(page.getByTestId('section')).toHaveCount(1)
  await tray.getByRole('button', { name: 'Show Extrude 2 alone, or all again' }).click()
  await expect(tray).toContainText('hidden')
  await tray.getByRole('button', { name: 'Show Extrude 2 alone, or all again' }).click()
  await expect(page.getByTestId('section')).toHaveCount(2)
  await tray.getByRole('button', { name: /^Put Body 1 away/ }).click()
  await expect(tray).toContainText('put away')
  await expect(page.getByTestId('section')).toHaveCount(1)
  await tray.getByRole('button', { name: 'Take Body 1 out again' }).click()
  await add(page, 'j')
  await page.getByLabel('How', { exact: true }).selectOption('cut')
  await page.getByLabel('Body', { exact: true }).selectOption('Body 1')
  await page.getByRole('checkbox', { name: 'Extrude 2' }).check()
  await expect(line(page, 'Combine 1')).toContainText('−2.2 cm³')
  await commit(page, 'Name of the op', 'Slots')
  await routeRow(page, 'Pattern 1').click()
  await commit(page, 'Left out', '2, 4-5')
  await expect(line(page, 'Slots')).toContainText('−1.1 cm³')
  await commit(page, 'Left out', 'some')
  await expect(line(page, 'Pattern 1')).toContainText('no list of numbers')
})

test('of two outlines that cross, areas are chosen one by one by the mouse', async ({ page }) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'p')
  await page.getByLabel('On', { exact: true }).selectOption('top')
  await drawLines(page, ['-30 -20', '10 -20', '10 20', '-30 20', '-30 -20'])
  await page.keyboard.press('Escape')
  await drawLines(page, ['-10 -10', '30 -10', '30 10', '-10 10', '-10 -10'])
  await page.keyboard.press('Escape')
  await page.getByLabel('For', { exact: true }).selectOption('open')
  await stage(page, 'Form')
  await add(page, 'e')
  // By even and odd what both cover is empty: 1600 + 800 − 2 · 400, ten high.
  await expect(line(page, 'Extrude 1')).toContainText('+16.0 cm³')
  await page.getByRole('button', { name: 'Fit the table' }).click()
  const areas = page.getByTestId('area')
  await expect(areas).toHaveCount(3)
  // What both cover is the smallest of the three: a click in its middle takes it.
  const boxes = await Promise.all((await areas.all()).map(async (a) => (await a.boundingBox())!))
  const small = boxes.reduce((a, b) => (b.width * b.height < a.width * a.height ? b : a))
  const middle = [small.x + small.width / 2, small.y + small.height / 2] as const
  await page.mouse.click(...middle)
  await expect(line(page, 'Extrude 1')).toContainText('+4.0 cm³')
  // Left of it the rest of the first square; both are one body.
  await page.mouse.click(small.x - 5, small.y + small.height / 2)
  await expect(line(page, 'Extrude 1')).toContainText('+16.0 cm³')
  await expect(page.getByText('2 chosen on the Table')).toBeVisible()
  await page.mouse.click(...middle)
  await expect(line(page, 'Extrude 1')).toContainText('+12.0 cm³')
  await page.getByRole('button', { name: 'All', exact: true }).click()
  await expect(page.getByText('all enclosed')).toBeVisible()
  // A face of it is carried out in its turn, picked on the Stage: 800 by 3.
  await page.mouse.click(...middle)
  await expect(line(page, 'Extrude 1')).toContainText('+4.0 cm³')
  await add(page, 'e')
  await choose(page, 'What', 'faces')
  await choose(page, 'Of', { label: 'Body 1' })
  await page.getByRole('button', { name: 'Pick faces: Faces' }).click()
  await look(page, 'top')
  await click(page, 'end of Extrude 1')
  await picked(page)
  await commit(page, 'Length', '3')
  await expect(line(page, 'Extrude 2')).toContainText('+1.2 cm³')
})
