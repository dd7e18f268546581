import { expect, test } from '@playwright/test'
import { add, click, commit, line, look, newWorkpiece, outline, picked, stage } from './bench'

test('faces of a block are moved, hollowed with a wall of their own, drafted both ways and parted along, by mouse', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await outline(page, ['0 0', '60 0', '60 30', '0 30'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '20')
  await expect(line(page, 'Extrude 1')).toContainText('+36.0 cm³')

  // The end moves out by 4: 60 x 30 x 4.
  await stage(page, 'Refine')
  await add(page, 'o')
  await look(page, 'top')
  await click(page, 'end of Extrude 1')
  await picked(page)
  await commit(page, 'By', '4')
  await expect(line(page, 'Offset face 1')).toContainText('+7.2 cm³', { timeout: 300_000 })

  // Open above, walls of 2 and one of 5: 60 x 30 x 24 less 53 x 26 x 22.
  await add(page, 's')
  await click(page, 'end of Extrude 1')
  await picked(page)
  await commit(page, 'Wall', '2')
  await page.getByRole('button', { name: 'Pick faces: Other walls' }).click()
  await look(page, 'right')
  await click(page, /line2 of Extrude 1/)
  await picked(page)
  await page.getByLabel(/^Wall of .*line2/).fill('5')
  await page.getByLabel(/^Wall of .*line2/).press('Enter')
  await expect(line(page, 'Shell 1')).toContainText('−30.3 cm³', { timeout: 300_000 })

  // A rod beside it, leaning both ways from a plane at half its height.
  await outline(page, ['80 0', '100 0', '100 20', '80 20'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  await commit(page, 'Length', '20')
  await stage(page, 'Draw')
  await add(page, 'd')
  await page.getByLabel('From', { exact: true }).selectOption('top')
  await commit(page, 'Distance', '10')
  await stage(page, 'Refine')
  await add(page, 'd')
  await page.getByLabel('Body', { exact: true }).selectOption({ index: 1 })
  await page.getByLabel('From', { exact: true }).selectOption({ label: 'Datum plane 1' })
  await page.getByLabel('Drawn', { exact: true }).selectOption('both')
  await look(page, 'right')
  await click(page, /line2 of Extrude 2/)
  await picked(page)
  await commit(page, 'Angle', '5 deg')
  // Two wedges of 10 x 10 tan 5 / 2, 20 long.
  await expect(line(page, 'Draft 1')).toContainText('−175 mm³', { timeout: 300_000 })

  // Parted along the shell's floor: its plane runs on through the whole.
  await add(page, 'p')
  await page.getByLabel('Body', { exact: true }).selectOption({ index: 0 })
  await page.getByLabel('Part', { exact: true }).selectOption('faces')
  await page.getByLabel('Of', { exact: true }).selectOption({ index: 0 })
  await look(page, 'top')
  await click(page, /inside of.*start of Extrude 1|start of Extrude 1/)
  await picked(page)
  await expect(page.getByTestId('body')).toHaveCount(3, { timeout: 300_000 })
})
