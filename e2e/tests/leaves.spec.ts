import { expect, test } from '@playwright/test'
import {
  accessible,
  add,
  click,
  commit,
  drawing,
  line,
  look,
  newWorkpiece,
  outline,
  picked,
  stage,
} from './bench'

test('three leaves that share both ends become a body, then a wall, square to them and straight', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await drawing(page, 'top', ['-50 0', '0 30', '50 0'])
  await drawing(page, 'front', ['-50 0', '0 20', '50 0'])
  await drawing(page, 'top', ['-50 0', '0 -30', '50 0'])
  await stage(page, 'Form')
  await add(page, 'l')
  await expect(page.getByTestId('section-of-loft')).toHaveCount(3)
  await page.getByLabel('Runs', { exact: true }).selectOption('ruled')
  // A rhombus of 100 x 60 under a ridge 20 above its middle.
  await expect(line(page, 'Loft 1')).toContainText('+20.0 cm³', { timeout: 300_000 })

  await page.getByLabel('Open sections', { exact: true }).selectOption('one')
  await expect(page.getByText(/has a crease of/).first()).toBeVisible({ timeout: 300_000 })
  await page.getByLabel('Square to', { exact: true }).selectOption('top')
  // 3 along the upright, whatever the slope: less square to it, and told.
  await expect(line(page, 'Loft 1')).toContainText('+9.0 cm³', { timeout: 300_000 })
  await expect(line(page, 'Loft 1')).toContainText(/wall [\d.]+.*mm/)
  await accessible(page)
})

test('a cover goes over picked faces at a gap, and a path is what two drawings show', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await outline(page, ['-20 -15', '20 -15', '20 15', '-20 15'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '10')
  await expect(line(page, 'Extrude 1')).toContainText('+12.0 cm³', { timeout: 300_000 })
  await add(page, 'c')
  await page.getByRole('button', { name: /^Pick faces/ }).click()
  await look(page, 'top')
  await click(page, 'end of Extrude 1')
  await picked(page)
  await commit(page, 'Wall', '2')
  await expect(line(page, 'Cover 1')).toContainText('+2.4 cm³', { timeout: 300_000 })
  await commit(page, 'Gap', '0.5')
  await expect(line(page, 'Cover 1')).toContainText('wall 2 mm at 0.5 mm', { timeout: 300_000 })

  await drawing(page, 'top', ['0 0', '60 45'])
  await drawing(page, 'front', ['0 20', '60 100'])
  await add(page, 'w')
  await page.getByLabel('Runs', { exact: true }).selectOption('views')
  await page.getByLabel('Drawing', { exact: true }).selectOption({ label: 'Profile 2' })
  await page.getByLabel('And', { exact: true }).selectOption({ label: 'Profile 3' })
  // 60 along x, 45 along y and 80 along z.
  await expect(line(page, 'Path 1')).toContainText(`${Math.hypot(60, 45, 80).toFixed(2)} mm long`)
})
