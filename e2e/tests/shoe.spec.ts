import { expect, type Page, test } from '@playwright/test'
import { add, click, commit, drawing, line, look, newWorkpiece, picked, stage } from './bench'

const plane = async (page: Page, distance: string) => {
  await stage(page, 'Draw')
  await add(page, 'd')
  await page.getByLabel('From', { exact: true }).selectOption('top')
  await commit(page, 'Distance', distance)
}
test('a knife-block shoe: lofted between five-sided outlines, hollowed, let in on a slanted flank and mirrored', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await drawing(page, 'top', ['-45 -33', '45 -33', '45 11', '0 33', '-45 11', '-45 -33'])
  await plane(page, '24')
  await drawing(page, 'Datum plane 1', [
    '-40 -28',
    '40 -28',
    '40 8.5',
    '0 28',
    '-40 8.5',
    '-40 -28',
  ])
  await stage(page, 'Form')
  await add(page, 'l')
  // Two outlines apart by 24, straight between: the prismoidal rule over their areas and that half-way.
  const area = (w: number, y0: number, y1: number, tip: number) =>
    w * (y1 - y0) + (w * (tip - y1)) / 2
  const mid = area(85, -30.5, 9.75, 30.5)
  const whole = (24 / 6) * (area(90, -33, 11, 33) + 4 * mid + area(80, -28, 8.5, 28))
  await expect(line(page, 'Loft 1')).toContainText(`+${(whole / 1000).toFixed(1)} cm³`, {
    timeout: 300_000,
  })

  await stage(page, 'Refine')
  await add(page, 's')
  await look(page, 'top')
  await click(page, 'end of Loft 1')
  await picked(page)
  await commit(page, 'Wall', '3')
  await expect(line(page, 'Shell 1')).toContainText('wall 3.00 mm', { timeout: 300_000 })

  // A plane on the slanted flank, a field on it, let in by 1 and mirrored as an op.
  await stage(page, 'Draw')
  await add(page, 'd')
  await page.getByRole('button', { name: /^Pick faces/ }).click()
  await look(page, 'right')
  await click(page, /line2 of Loft 1|line2/)
  await picked(page)
  await commit(page, 'Distance', '0')
  await expect(line(page, 'Datum plane 2')).toContainText('0 mm from the face')
  await drawing(page, 'Datum plane 2', ['-25 -4', '5 -4', '5 10', '-25 10', '-25 -4'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('cut')
  await page.getByLabel('Which way', { exact: true }).selectOption('against')
  await commit(page, 'Length', '1')
  await expect(line(page, 'Extrude 1')).toContainText('−420 mm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 'm')
  await page.getByLabel('Of', { exact: true }).selectOption('ops')
  await page.getByLabel('Extrude 1').check()
  await page.getByLabel('In', { exact: true }).selectOption('side')
  await expect(line(page, 'Mirror 1')).toContainText('−420 mm³', { timeout: 300_000 })
})
