import { expect, test } from '@playwright/test'
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
  pathThrough,
  picked,
  routeRow,
  stage,
} from './bench'

test('a probe plug by hand: full rounds, a loft by a kinked rail told and mended, its lead, four in a row just touching', async ({
  page,
}) => {
  test.setTimeout(2_400_000)
  await newWorkpiece(page)
  // A block of 24 x 12, 18 long, whose narrow sides are rounded from edge to edge.
  await drawing(page, 'side', ['-12 -6', '12 -6', '12 6', '-12 6', '-12 -6'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Which way', { exact: true }).selectOption('against')
  await commit(page, 'Length', '18')
  await expect(line(page, 'Extrude 1')).toContainText('+5.2 cm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 'f')
  await page.keyboard.press('Escape')
  await page.getByLabel('Round', { exact: true }).selectOption('full')
  await page.getByRole('button', { name: /^Pick faces/ }).click()
  await look(page, 'front')
  await click(page, /line4 of Extrude 1/)
  await picked(page)
  await page.getByRole('button', { name: /^Pick faces/ }).click()
  const box = (await page.getByRole('region', { name: 'Stage' }).locator('canvas').boundingBox())!
  const [x, y] = [box.x + 60, box.y + box.height / 4]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + box.height / 2, y, { steps: 8 })
  await page.mouse.up()
  await click(page, /line2 of Extrude 1/)
  await picked(page)
  // A stadium of 12 x 6 pi, 18 long.
  const stadium = 12 * 12 + 36 * Math.PI
  await expect(page.getByTestId('body').first()).toContainText(
    `${((stadium * 18) / 1000).toFixed(1)} cm³`,
  )

  // A round neck, and a rail to it with a kink.
  await level(page, 'side', '30')
  await circles(page, 'Datum plane 1', [3.5])
  await pathThrough(page, ['0 12 0', '15 9 0', '30 3.5 0'])
  await expect(page.getByText(/A kink of 8\.8°/)).toBeVisible()
  await stage(page, 'Form')
  await add(page, 'l')
  await page.getByLabel('Add a section').selectOption({ label: 'a face of Body 1, picked' })
  await look(page, 'right')
  await click(page, /end of Extrude 1/)
  await expect(page.getByTestId('section-of-loft')).toHaveCount(1)
  await page.getByLabel('Add a section').selectOption({ label: 'Profile 2' })
  await expect(page.getByTestId('section-of-loft')).toHaveCount(2)
  await page.getByRole('checkbox', { name: 'Path 1' }).check()
  await choose(page, 'Mirrored in', 'front')
  await choose(page, 'Result', 'join')
  await expect(page.getByText(/Rail 1 has a kink of 8\.8°/).first()).toBeVisible({
    timeout: 300_000,
  })
  const kinked = (await line(page, 'Loft 1').textContent())!
  await routeRow(page, 'Path 1').click()
  await page.getByRole('button', { name: 'Round the corners by 5 mm' }).click()
  await commit(page, 'Corners', '40')
  await expect(line(page, 'Loft 1')).not.toHaveText(kinked, { timeout: 300_000 })
  await expect(line(page, 'Loft 1')).toContainText(/2 rails met within 0\.00000\d mm/)

  // A lead of lines with round bends, dropping at its end, that begins inside the neck.
  await routeRow(page, 'Loft 1').click()
  await pathThrough(page, ['28 0 0', '+22 0 0', '+30 22 0', '+32 0 0', '+0 0 -40'])
  await commit(page, 'Corners', '9')
  await stage(page, 'Form')
  await add(page, 's')
  await choose(page, 'Result', 'join')
  await commit(page, 'Diameter', '5')
  await expect(line(page, 'Path 2')).toContainText('least radius 9 mm')
  // All but the 2 mm of it that lie in the neck.
  const long = Number(/([\d.]+) mm long/.exec((await line(page, 'Path 2').textContent())!)![1])
  await expect(line(page, 'Sweep 1')).toContainText(
    `+${(((long - 2) * Math.PI * 6.25) / 1000).toFixed(1)} cm³`,
    { timeout: 300_000 },
  )
  await stage(page, 'Refine')
  await add(page, 't')
  await choose(page, 'Along', 'y')
  await commit(page, 'How many', '4')
  await choose(page, 'Spaced by', 'gap')
  await choose(page, 'Result', 'bodies')
  await expect(line(page, 'Pattern 1')).toContainText('4 bodies, just touching', {
    timeout: 300_000,
  })
  await stage(page, 'Gauge')
  await page.keyboard.press('e')
  await expect(page.getByTestId('look')).toContainText('Mirrored stripes')
  await accessible(page)
})
