import { expect, type Page, test } from '@playwright/test'
import { newWorkpiece, routeRow, stage, welcomed } from './bench'

/** The table as it is on the page. */
const table = (page: Page) => page.getByRole('region', { name: 'Drafting table' })

/** Clicks on the table at places given as shares of it, and says where the pointer then stands. */
async function clickAt(page: Page, places: [number, number][]) {
  const box = (await table(page).boundingBox())!
  const at: [number, number][] = []
  for (const [u, v] of places) {
    const p: [number, number] = [box.x + u * box.width, box.y + v * box.height]
    await page.mouse.move(...p, { steps: 4 })
    await page.mouse.down()
    await page.mouse.up()
    at.push(p)
  }
  return at
}
/** Where the axis stands, as a share of the table's width: read off the diameters told under the pointer. */
async function axisShare(page: Page): Promise<number> {
  const box = (await table(page).boundingBox())!
  const across = async (u: number) => {
    await page.mouse.move(box.x + u * box.width, box.y + 0.6 * box.height)
    const hover = page.getByTestId('hover')
    await expect(hover).toHaveText(/⌀ [\d.]+, height/)
    await page.waitForTimeout(100)
    return Number(/⌀ ([\d.]+)/.exec((await hover.textContent())!)![1])
  }
  // With Alt nothing is snapped to.
  await page.keyboard.down('Alt')
  const [a, b] = [await across(0.7), await across(0.9)]
  await page.keyboard.up('Alt')
  return 0.7 - (0.2 * a) / (b - a)
}
/** Middle of a drawn point on the page. */
async function pointAt(page: Page, name: string): Promise<[number, number]> {
  const box = (await page
    .locator(`[data-testid="drawn-point"][data-name="${name}"] circle`)
    .first()
    .boundingBox())!
  return [box.x + box.width / 2, box.y + box.height / 2]
}

test('an outline drawn by clicks alone closes, turns and is hollowed; the view stands still', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await expect(page.getByTestId('freedom')).toHaveText('Nothing is drawn yet.')
  await page.keyboard.press('n')
  // From the axis out, up and back to it: the axis stands where the first click finds it.
  const u0 = await axisShare(page)
  const first = await clickAt(page, [
    [u0, 0.8],
    [u0 + 0.12, 0.8],
  ])
  await expect(page.locator('[data-testid="drawn-point"]')).toHaveCount(2)
  // Nothing moved under the pointer: the second click's point is where it was clicked.
  const [x, y] = await pointAt(page, 'p2')
  expect(Math.hypot(x - first[1]![0], y - first[1]![1])).toBeLessThan(9)
  await clickAt(page, [
    [u0 + 0.16, 0.4],
    [u0, 0.4],
  ])
  await expect(page.locator('[data-testid="drawn-point"]')).toHaveCount(4)
  for (let i = 0; i < 2; i++) await page.keyboard.press('Escape')
  await expect(page.locator('[data-testid="drawn-piece"]')).toHaveCount(3)
  const [x2, y2] = await pointAt(page, 'p2')
  expect(Math.hypot(x2 - x, y2 - y)).toBeLessThan(1)
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('3 pieces, sound')
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('cm³')
  // Hollow it, picking the top on the section by the mouse; the result is seen while it is picked.
  await stage(page, 'Refine')
  await page.getByRole('button', { name: /^Shell/ }).click()
  await expect(page.getByTestId('ghost')).toBeVisible()
  const before = await page.getByTestId('section').first().getAttribute('d')
  const top = (await page
    .locator('[data-testid="pick-face"][data-name="turn1:line3"]')
    .boundingBox())!
  await page.mouse.click(top.x + top.width / 2, top.y + top.height / 2)
  await expect(page.getByTestId('section').first()).not.toHaveAttribute('d', before!)
  await expect(page.getByTestId('ghost')).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('wall 3.00')
})

test('a revolve of an open outline shows the profile with its fix, which mends it', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await page.keyboard.press('n')
  await clickAt(page, [
    [0.6, 0.8],
    [0.7, 0.8],
    [0.7, 0.4],
    [0.6, 0.4],
  ])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  const diagnosis = page.getByRole('list', { name: 'Diagnosis' })
  await expect(diagnosis).toContainText('open at the marked places')
  // The drawing is seen, though the op on the sheet is the revolve.
  await expect(table(page).locator('svg circle[stroke-dasharray]').first()).toBeVisible()
  await page.getByRole('button', { name: 'Go to Profile 1' }).click()
  await expect(page).toHaveURL(/\/draw$/)
  await routeRow(page, 'Revolve 1').click()
  await page.getByRole('button', { name: 'Close with a line' }).click()
  await expect(diagnosis).toHaveCount(0)
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('cm³')
})

test('dragging a held point moves the figure that holds it, and one step takes it back', async ({
  page,
}) => {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await routeRow(page, 'Body outline').click()
  await expect(page.getByTestId('freedom')).toHaveText('Fully held.')
  const value = page.getByLabel('Value of belly')
  const before = await value.inputValue()
  // The widest point of the outline: the one farthest right.
  const points = await page.locator('[data-testid="drawn-point"]').all()
  let widest: [number, number] = [0, 0]
  for (const p of points) {
    const b = (await p.locator('circle').first().boundingBox())!
    if (b.x > widest[0]) widest = [b.x, b.y + b.height / 2]
  }
  const from: [number, number] = [widest[0] + 11, widest[1]]
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move(from[0] + 12, from[1], { steps: 4 })
  await expect(page.getByTestId('pulling')).toContainText('belly = ')
  await page.mouse.move(from[0] + 24, from[1], { steps: 6 })
  await page.mouse.up()
  await expect(value).not.toHaveValue(before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(value).toHaveValue(before)
})

test('the shelf shows a picture on every card without opening it', async ({ page }) => {
  test.slow()
  await welcomed(page)
  for (const name of ['egg-cup', 'napkin-coil']) {
    await page.goto('/')
    await page.getByLabel('File to import').setInputFiles(`demo/set/${name}.lathe.json`)
    await page.waitForURL(/\/w\//)
  }
  // Copies are cards that nobody has opened: one turned, one made by the exact kernel.
  await page.goto('/')
  for (const name of ['Egg cup', 'Napkin coil'])
    await page.getByRole('button', { name: `Duplicate ${name}`, exact: true }).click()
  const cards = page.locator('main ul > li')
  await expect(cards).toHaveCount(4)
  await expect(cards.locator('img')).toHaveCount(4, { timeout: 300_000 })
})
