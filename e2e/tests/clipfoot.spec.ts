import { readFileSync } from 'node:fs'
import { inflateRawSync } from 'node:zlib'
import { expect, test } from '@playwright/test'
import { accessible, add, button, choose, commit, line, newWorkpiece, saved, stage } from './bench'

/** The STEP file the shipped piece brings in. */
function lid(): Buffer {
  const { files } = JSON.parse(readFileSync('demo/set/lid-clip-foot.lathe.json', 'utf8'))
  const [file] = Object.values(files) as { data: string }[]
  return inflateRawSync(Buffer.from(file!.data, 'base64'))
}

test('a foot that follows a foreign lid, by hand: a flat cage laid on it, finer by itself, thickened', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await page.goto('/')
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'Pan lid.step', mimeType: 'model/step', buffer: lid() })
  await page.waitForURL(/\/w\/.*\/brief$/)
  await expect(line(page, 'Pan lid')).toContainText('100.3 cm³, exact', { timeout: 300_000 })
  await stage(page, 'Form')
  await add(page, 'g')
  await choose(page, 'Begins as', 'plane')
  await commit(page, 'Cage size along x', '46')
  await commit(page, 'Cage size along y', '26')
  await commit(page, 'Cage faces along y', '2')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  // All of it beside and above the lid, then onto it.
  await button(page, 'all').click()
  await button(page, 'Move').click()
  await commit(page, 'Edit x', '56')
  await commit(page, 'Edit z', '60')
  await commit(page, 'Edit out', '0')
  await button(page, 'none').click()
  await button(page, 'Lay on').click()
  await choose(page, 'Edit first', 'z')
  await button(page, 'Thicken').click()
  const cage = line(page, 'Cage 1')
  await expect(cage).toContainText(/laid within 0\.0[0-4]\d* mm/, { timeout: 300_000 })
  await expect(cage).toContainText(/wall 2\.\d* mm to 2\.5/)

  // Asked for more than it can be made finer for, it says how near it lies and where.
  await page
    .getByRole('button', { name: /^Lay on/ })
    .last()
    .click()
  await commit(page, 'Edit within', '0.004')
  await expect(page.getByLabel('Diagnosis')).toContainText(/lies within 0\.0\d+ mm only/, {
    timeout: 300_000,
  })
  // The places it was measured at are told, and drawn on the Stage.
  await expect(page.getByTestId('laid-places')).toContainText(/[1-9]\d* beyond/)
  await commit(page, 'Edit within', '0.05')
  await accessible(page)
  await saved(page)
  await page.reload()
  await expect(cage).toContainText(/laid within 0\.0[0-4]\d* mm/, { timeout: 300_000 })
})
