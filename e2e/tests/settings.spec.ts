import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { accessible, button, choose, commit, openDemo, saved, stage } from './bench'

test('tables, numbers, keys and the look of one’s own; the brief picks from them; bodies as a list', async ({
  page,
}) => {
  await openDemo(page)
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
  await saved(page)
  const bench = page.url()
  await page.goto('/settings')
  await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible()
  await accessible(page)
  const materials = page.getByRole('region', { name: 'Materials of your own' })
  await materials.getByRole('button', { name: 'Add a row' }).click()
  await commit(page, 'name of New material', 'Bone china')
  await commit(page, 'density, g/cm³ of Bone china', '2,5')
  await commit(page, 'price for 1 kg of Bone china', '12')
  await commit(page, 'bed, mm of Bench printer, nozzle 0.4', '60 x 60 x 90')
  await choose(page, 'Decimals of masses', '0')
  await choose(page, 'Beside millimetres', 'fractions')
  await page.getByText('Keys', { exact: true }).click()
  // A key another command has is refused, and whose it is.
  await commit(page, 'Key of Next op', 'k')
  await expect(page.getByText('K is the key of “Previous op”.')).toBeVisible()
  await commit(page, 'Key of Next op', 'n')
  await choose(page, 'Paper', 'dark')
  await accessible(page)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export' }).click(),
  ])
  const own = readFileSync(await file.path(), 'utf8')
  expect(JSON.parse(own)).toMatchObject({ theme: 'dark', keys: { 'next-op': 'n' } })

  await page.goto(bench)
  await expect(page.getByTestId('gauge-mass')).toHaveText(/^\d+ g$/)
  await expect(page.getByTestId('gauge-wall')).toHaveText(/mm \(≈? ?\d.* in\)/)
  await stage(page, 'Brief')
  await choose(page, 'Material', { label: 'Bone china, 2.5 g/cm³' })
  await expect(page.getByText('Density: of your own table.')).toBeVisible()
  await choose(page, 'Material of Cruet', { label: 'Bone china' })
  await choose(page, 'Printer of your tables', { label: 'Bench printer, nozzle 0.4' })
  await expect(page.getByText('Cruet is too large, whichever side is down.')).toBeVisible()
  await expect(page.getByLabel('Width of one printed line, mm')).toHaveValue('0.45')
  await accessible(page)

  await button(page, 'Bodies as a list').click()
  const list = page.getByRole('dialog', { name: 'Bodies' })
  await expect(list.getByRole('row', { name: /^Cruet/ })).toContainText('Bone china')
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    list.getByRole('button', { name: 'CSV' }).click(),
  ])
  const [, cruet, total] = readFileSync(await csv.path(), 'utf8').split('\r\n')
  const [, , volume, mass, cost] = cruet!.split(',').map(Number)
  expect(mass).toBeCloseTo(2.5 * volume!, 1)
  expect(cost).toBeCloseTo((12 * mass!) / 1000, 1)
  expect(total).toContain(String(volume))
  await page.keyboard.press('Escape')

  // The workpiece holds what was chosen: without the tables it is still there.
  await saved(page)
  await page.goto('/settings')
  await page.getByRole('button', { name: 'Take Bone china away' }).click()
  await page.goto(bench)
  await stage(page, 'Brief')
  await expect(page.getByLabel('Material', { exact: true })).toContainText('Bone china')
  await page.goto('/settings')
  await page.getByLabel('Settings to bring in').setInputFiles({
    name: 'own.json',
    mimeType: 'application/json',
    buffer: Buffer.from(own),
  })
  await expect(materials.getByLabel('name of Bone china')).toHaveValue('Bone china')
})
