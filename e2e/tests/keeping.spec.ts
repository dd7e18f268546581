import { expect, test } from '@playwright/test'
import { reading, routeRow, saved, stage } from './bench'

const openCruet = async (page: import('@playwright/test').Page) => {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
}

test('first start opens the cruet of the demo set, whose brief holds', async ({ page }) => {
  await openCruet(page)
  await expect(page.getByLabel('Name of the workpiece')).toHaveValue(/Oil cruet/)
  await expect(page.getByRole('navigation', { name: 'Route' }).getByText('fails')).toHaveCount(0)
  expect(await reading(page, 'capacity')).toBeGreaterThan(245)
})

test('a page killed in the middle of the work loses nothing', async ({ page, context }) => {
  await openCruet(page)
  const address = page.url()
  await stage(page, 'Refine')
  await routeRow(page, 'Hollow out').click()
  await page.getByLabel('Wall', { exact: true }).fill('2.6 mm')
  await page.getByLabel('Wall', { exact: true }).press('Enter')
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('wall 2.60 mm')
  await saved(page)
  // The renderer is ended without any chance to say good-bye.
  await page.goto('chrome://crash').catch(() => undefined)
  await page.close().catch(() => undefined)
  const again = await context.newPage()
  await again.goto(address)
  await expect(again.getByRole('navigation', { name: 'Route' })).toContainText('wall 2.60 mm')
  // and the step back is kept as well
  await again.getByRole('button', { name: 'Undo' }).click()
  await expect(again.getByRole('navigation', { name: 'Route' })).toContainText('wall 3.00 mm')
})

test('two tabs on one workpiece do not overwrite each other silently', async ({
  page,
  context,
}) => {
  await openCruet(page)
  await saved(page)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(other.getByTestId('gauge-capacity')).toHaveText(/ml/)
  await page.getByLabel('Value of wall').fill('2.8 mm')
  await page.getByLabel('Value of wall').press('Enter')
  await saved(page)
  await other.getByLabel('Value of wall').fill('3.2 mm')
  await other.getByLabel('Value of wall').press('Enter')
  await expect(other.getByRole('alert')).toContainText('Another tab has changed')
  await other.getByRole('button', { name: 'Keep mine as a copy' }).click()
  await expect(other.getByLabel('Name of the workpiece')).toHaveValue(/this tab/)
  await expect(other.getByLabel('Value of wall')).toHaveValue('3.2 mm')
  await page.reload()
  await expect(page.getByLabel('Value of wall')).toHaveValue('2.8 mm')
})

test('without storage the work goes on and can be exported', async ({ page }) => {
  await openCruet(page)
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
  })
  await page.getByLabel('Value of wall').fill('2.8 mm')
  await page.getByLabel('Value of wall').press('Enter')
  await expect(page.getByTestId('save-state')).toHaveText('not saved')
  await expect(page.getByText('storage is full')).toBeVisible()
  await stage(page, 'Release')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Workpiece' }).click(),
  ])
  expect(file.suggestedFilename()).toMatch(/\.lathe\.json$/)
})

test('a file that is no workpiece is refused in a sentence; a deleted one can be put back', async ({
  page,
}) => {
  await openCruet(page)
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles({
    name: 'x.lathe.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"a":1}'),
  })
  await expect(page.getByText('lacks "format"')).toBeVisible()
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'x.gif', mimeType: 'image/gif', buffer: Buffer.from('GIF') })
  await expect(page.getByText('x.gif cannot be opened')).toBeVisible()
  await page.getByRole('button', { name: 'Delete Egg cup' }).click()
  await expect(page.getByRole('heading', { name: 'Egg cup' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Put back' }).click()
  await expect(page.getByRole('heading', { name: 'Egg cup' })).toBeVisible()
})
