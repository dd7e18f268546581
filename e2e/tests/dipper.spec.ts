import { expect, test } from '@playwright/test'
import {
  add,
  choose,
  circles,
  commit,
  drawing,
  figure,
  level,
  line,
  newWorkpiece,
  stage,
} from './bench'

test('a honey dipper by hand: sections, a row of slots by a figure, core and handle; longer, all follows', async ({
  page,
}) => {
  test.setTimeout(2_400_000)
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await figure(page, 'length', '58 mm')
  await circles(page, 'top', [10, 4.5])
  await level(page, 'top', 'length / 2')
  await circles(page, 'Datum plane 1', [16, 4.5])
  await level(page, 'top', 'length')
  await circles(page, 'Datum plane 2', [10, 4.5])
  await stage(page, 'Form')
  await add(page, 'l')
  await expect(page.getByTestId('section-of-loft')).toHaveCount(3)
  await expect(line(page, 'Loft 1')).toContainText('+32.6 cm³', { timeout: 300_000 })

  await drawing(page, 'front', ['6 8.2', '32 8.2'])
  await page.keyboard.press('Shift+F')
  await page.getByRole('button', { name: 'line1', exact: true }).click()
  await page.getByText('Reshape', { exact: true }).click()
  await page.getByRole('button', { name: 'Repeat in a row' }).click()
  await commit(page, 'size of row1', '2.4')
  await commit(page, 'pitch of row1', '')
  await commit(page, 'count of row1', '')
  await commit(page, 'gap of row1', '3')
  await commit(page, 'extent of row1', 'length - 14 mm')
  await expect(page.getByTestId('row-row1')).toContainText('8 pieces')
  await stage(page, 'Form')
  await add(page, 'e')
  await choose(page, 'Profile', { label: 'Profile 4' })
  await choose(page, 'Result', 'cut')
  await choose(page, 'Body', { label: 'Body 1' })
  await choose(page, 'Which way', 'alike')
  await commit(page, 'Length', '64')
  await choose(page, 'Filled', 'middle')
  await commit(page, 'Wall', '2.4')
  await expect(line(page, 'Extrude 1')).toContainText('−3.4 cm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 'm')
  await choose(page, 'Of', 'ops')
  await page.getByRole('checkbox', { name: 'Extrude 1' }).check()
  await expect(line(page, 'Mirror 1')).toContainText('−3.4 cm³', { timeout: 300_000 })

  await circles(page, 'top', [4.5])
  await level(page, 'Datum plane 2', '95')
  await stage(page, 'Form')
  await add(page, 'e')
  await choose(page, 'Profile', { label: 'Profile 5' })
  await choose(page, 'How far', 'plane')
  await choose(page, 'Up to', { label: 'Datum plane 3' })
  await choose(page, 'Result', 'join')
  await choose(page, 'Body', { label: 'Body 1' })
  await expect(line(page, 'Extrude 2')).toContainText('+9.7 cm³', { timeout: 300_000 })

  // Longer: two slots more, a longer head, the handle as it was.
  await commit(page, 'Value of length', '68.8 mm')
  await expect(line(page, 'Extrude 1')).toContainText(/−[45]\.\d cm³/, { timeout: 300_000 })
  await expect(line(page, 'Extrude 2')).toContainText('+10.4 cm³', { timeout: 300_000 })
  await expect(page.getByTestId('lathe-state')).toHaveText(/rebuilt in/, { timeout: 300_000 })
})
