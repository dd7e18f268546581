import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { drawLines, newWorkpiece, reading, routeRow, saved, stage } from './bench'

const commit = async (page: Page, label: string, text: string) => {
  await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByLabel(label, { exact: true }).press('Enter')
}
const route = (page: Page) => page.getByRole('navigation', { name: 'Route' })
const press = (page: Page, name: string) =>
  page.getByRole('button', { name: new RegExp(`^${name}`) }).click()

const gauge = (page: Page, name: string) =>
  page.getByRole('button', { name: new RegExp(`^\\+ ${name}`) }).click()

/** A cylinder of the given places, turned. */
async function cylinder(page: Page, places: string[]) {
  await stage(page, 'Draw')
  await press(page, 'Profile')
  await drawLines(page, places)
  await stage(page, 'Form')
  await press(page, 'Revolve')
  await expect(route(page)).toContainText('cm³')
}

test('inches: typed numbers are inches, and so are the readings', async ({ page }) => {
  await newWorkpiece(page)
  await page.getByLabel('Unit of typed numbers').selectOption('in')
  await cylinder(page, ['0 0', '25 0', '25 50', '0 50'])
  await routeRow(page, 'Profile 1').click()
  for (const p of ['p2', 'p3']) await commit(page, `${p} from axis`, '1')
  for (const p of ['p3', 'p4']) await commit(page, `${p} height`, '2 1/2')
  await stage(page, 'Gauge')
  await gauge(page, 'Height')
  await gauge(page, 'Width')
  await expect(page.getByTestId('gauge-height')).toHaveText('2.5000 in')
  await expect(page.getByTestId('gauge-width')).toHaveText('2.0000 in')
})

test('an outward shell and a split: the wall is outside, both parts stay', async ({ page }) => {
  await newWorkpiece(page)
  await cylinder(page, ['0 0', '25 0', '25 50', '0 50'])
  await stage(page, 'Refine')
  await press(page, 'Shell')
  await page.locator('[data-testid="pick-face"][data-name$=":line3"]').click({ force: true })
  await page.getByLabel('Wall grows').selectOption('out')
  await commit(page, 'Wall', '2')
  await expect(route(page)).toContainText(/wall 2\.00/)
  await stage(page, 'Gauge')
  await gauge(page, 'Width')
  await gauge(page, 'Capacity')
  await expect(page.getByTestId('gauge-width')).toHaveText('54.00 mm')
  // What it holds is the whole of what was drawn: pi 25^2 50 = 98.17 ml.
  expect(await reading(page, 'capacity')).toBeCloseTo(98.2, 1)
  await stage(page, 'Draw')
  await press(page, 'Datum plane')
  await page.getByLabel('From').selectOption('top')
  await commit(page, 'Distance', '30')
  await stage(page, 'Refine')
  await press(page, 'Split')
  await page.getByLabel('At', { exact: true }).selectOption({ label: 'Datum plane 1' })
  await expect(route(page)).toContainText(/cm³ below, .* cm³ above/)
  await expect(page.getByTestId('section')).toHaveCount(2)
})

test('a STEP file becomes a body of a new workpiece and leaves again', async ({ page }) => {
  await newWorkpiece(page)
  await cylinder(page, ['0 0', '20 0', '20 40', '0 40'])
  await stage(page, 'Release')
  const [step] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'STEP' }).click(),
  ])
  const bytes = readFileSync(await step.path())
  await saved(page)
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles({
    name: 'broken.step',
    mimeType: 'model/step',
    buffer: Buffer.from('no STEP at all'),
  })
  await expect(page.getByText('not a readable STEP file')).toBeVisible()
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'Peg.step', mimeType: 'model/step', buffer: bytes })
  await page.waitForURL(/\/w\/.*\/brief$/)
  // pi 20^2 40 = 50.27 cm3
  await expect(route(page)).toContainText('50.3 cm³, exact')
  await stage(page, 'Gauge')
  await gauge(page, 'Height')
  await expect(page.getByTestId('gauge-height')).toHaveText('40.00 mm')
  await saved(page)
  await page.reload()
  await expect(route(page)).toContainText('50.3 cm³, exact')
  await stage(page, 'Release')
  await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'STL' }).click(),
  ])
  await expect(page.getByTestId('released')).toContainText('triangles')
  await page.getByText('Log', { exact: true }).click()
  await expect(page.getByRole('list', { name: 'Log' })).toContainText('Released peg.stl')
})

test('the kernel is stopped in the middle of its work and serves again', async ({ page }) => {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await stage(page, 'Release')
  await page.getByRole('button', { name: 'STEP' }).click()
  await page.getByRole('button', { name: 'Stop the kernel' }).click()
  await expect(page.getByTestId('released')).toHaveText('Not made: Stopped as asked.')
  const [step] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'STEP' }).click(),
  ])
  expect(step.suggestedFilename()).toMatch(/\.step$/)
})
