import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import {
  commit,
  drawLines,
  newWorkpiece,
  reading,
  route,
  routeRow,
  saved,
  stage,
  welcomed,
} from './bench'

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
  // A new split holds from the start: at the middle of the body.
  await expect(route(page)).toContainText(/cm³ below, .* cm³ above/)
  await page.getByLabel('Part', { exact: true }).selectOption('plane')
  await page.getByLabel('At', { exact: true }).selectOption({ label: 'Datum plane 1' })
  await expect(route(page)).toContainText(/cm³ below, .* cm³ above/)
  await expect(page.getByTestId('section')).toHaveCount(2)
})

test('a wall holds in two spans: below the neck, and once the lower room is gone', async ({
  page,
}) => {
  await newWorkpiece(page)
  const outline = ['0 0', '40 0', '40 23', '10.33 23', '10.33 40', '30 40', '30 120', '0 120']
  await cylinder(page, outline)
  await stage(page, 'Refine')
  await press(page, 'Shell')
  await page.locator('[data-testid="pick-face"][data-name$=":line7"]').click({ force: true })
  const range = page.getByTestId('range')
  // At 10.33 itself the neck is closed: what is shown holds.
  await expect(range).toContainText('holds up to 10.329 mm')
  await expect(range).toContainText('its neck closes at 10.33 mm')
  // The largest ball of the lower room touches its floor and the neck's edge: (z - 23)^2 + 10.33^2 = z^2.
  const gone = (23 ** 2 + 10.33 ** 2) / 46
  const from = Number(/holds from ([\d.]+)/.exec((await range.textContent())!)![1])
  expect(Math.abs(from - gone)).toBeLessThan(0.002)
  await commit(page, 'Wall', '12')
  await expect(page.getByTestId('lathe-state')).toContainText('fail')
  await commit(page, 'Wall', '14')
  await expect(route(page)).toContainText(/wall 14\.00/)
})

test('a split at a height keeps it as a datum plane, which the split then follows', async ({
  page,
}) => {
  await newWorkpiece(page)
  await cylinder(page, ['0 0', '25 0', '25 50', '0 50'])
  await stage(page, 'Refine')
  await press(page, 'Split')
  await commit(page, 'Height', '20')
  await page.getByRole('button', { name: 'Keep this height as a datum plane' }).click()
  await expect(routeRow(page, 'Plane of Split 1')).toBeVisible()
  await routeRow(page, 'Plane of Split 1').click()
  await expect(page.getByLabel('Distance', { exact: true })).toHaveValue('20')
  await commit(page, 'Distance', '30')
  await stage(page, 'Gauge')
  await gauge(page, 'Height')
  await expect(page.getByTestId('gauge-height')).toHaveText('30.00 mm')
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
    page.getByRole('button', { name: 'STL', exact: true }).click(),
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

test('a route the kernel works on is stopped, says so, and is tried again', async ({ page }) => {
  test.slow()
  await welcomed(page)
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles('demo/set/mill-grip.lathe.json')
  await stage(page, 'Refine')
  await expect(route(page)).toContainText('31 of ball', { timeout: 300_000 })
  // A value nothing was made for yet.
  await commit(page, 'Value of deep', '1.87 mm')
  await page.getByRole('button', { name: 'Stop the kernel' }).click()
  await expect(page.getByTestId('lathe-state')).toContainText('fail')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(route(page)).toContainText('31 of ball', { timeout: 300_000 })
  await expect(page.getByTestId('lathe-state')).toContainText('rebuilt in')
})
