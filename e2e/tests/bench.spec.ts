import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { reading, routeRow, stage } from './bench'

test.beforeEach(async ({ page }) => {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
})

test('axe finds nothing in any stage', async ({ page }) => {
  for (const name of ['Brief', 'Draw', 'Form', 'Refine', 'Gauge', 'Release']) {
    await stage(page, name)
    await page.waitForTimeout(300)
    const { violations } = await new AxeBuilder({ page }).analyze()
    const found = violations.map(
      (v) => `${name}, ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`,
    )
    expect(found).toEqual([])
  }
})

test('axe finds nothing on the Shelf', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Egg cup' })).toBeVisible()
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.map((v) => v.id)).toEqual([])
})

test('dragging a point moves the finished wall along, as one step to undo', async ({ page }) => {
  await routeRow(page, 'Body outline').click()
  // Release the belly point of its figures first
  await page.getByRole('button', { name: 'Release Full width belly (c)' }).click()
  await page.getByRole('button', { name: /^Release Distance up .* \(origin, c\)/ }).click()
  await expect(page.getByTestId('freedom')).toContainText('2 freedoms left: c can move')
  const before = await reading(page, 'capacity')
  const section = await page.getByTestId('section').getAttribute('d')
  const point = page.locator('[data-testid="drawn-point"][data-name="c"]')
  const box = (await point.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 15, box.y + box.height / 2, { steps: 5 })
  await expect.poll(() => page.getByTestId('section').getAttribute('d')).not.toBe(section)
  await page.mouse.up()
  await expect.poll(() => reading(page, 'capacity')).toBeGreaterThan(before + 5)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => reading(page, 'capacity')).toBeCloseTo(before, 1)
})

test('the palette runs a command, keys do the same', async ({ page }) => {
  await page.keyboard.press('Control+k')
  await page.getByPlaceholder('What do you want to do, or find?').fill('go to release')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/release$/)
  await page.keyboard.press('4')
  await expect(page).toHaveURL(/refine$/)
  await expect(page.getByRole('toolbar', { name: 'Tools of Refine' })).toBeVisible()
  await page.keyboard.press('i')
  await page.keyboard.press('f')
  await expect(routeRow(page, 'Fillet 5')).toBeVisible()
})

test('leaving out, deleting, rolling back and slipping in between', async ({ page }) => {
  await stage(page, 'Refine')
  const route = page.getByRole('navigation', { name: 'Route' })
  await routeRow(page, 'Turn the body').click()
  await page.getByRole('button', { name: /^Chamfer/ }).click()
  await expect(route).toContainText('25')
  await page.locator('[data-testid="pick-edge"]').first().click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(route.getByText('Chamfer 1')).toHaveCount(0)
  await routeRow(page, 'Hollow out').click()
  await page.keyboard.press('b')
  await expect(route.getByText('not run').first()).toBeVisible()
  await page.keyboard.press('Shift+B')
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
  await page.keyboard.press('x')
  await expect(page.getByTestId('gauge-capacity')).not.toHaveText(/ml/)
  await page.keyboard.press('x')
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
})

test('an early change that breaks a later op says which, where, and offers fixes', async ({
  page,
}) => {
  await stage(page, 'Refine')
  await routeRow(page, 'Hollow out').click()
  await page.getByLabel('Wall', { exact: true }).fill('30')
  await page.getByLabel('Wall', { exact: true }).press('Enter')
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText('Fails.')
  await expect(page.getByTestId('lathe-state')).toContainText('fail')
  await page.getByRole('button', { name: 'Use the largest' }).click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText(/wall/)
  await page.getByLabel('Wall', { exact: true }).fill('three')
  await page.getByLabel('Wall', { exact: true }).press('Enter')
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText(
    'no figure named "three"',
  )
})

test('an op is moved along the route by its grip, and the route is numbered on', async ({
  page,
}) => {
  const route = page.getByRole('navigation', { name: 'Route' })
  const order = async () =>
    (await route.getByRole('listitem').allInnerTexts()).map((t) => t.split('\n')[1])
  const before = await order()
  expect(before.indexOf('Round the lip')).toBe(before.indexOf('Ease neck into lip') + 1)
  await page.getByLabel('Move op 90', { exact: true }).focus()
  await page.keyboard.press('Space')
  // The row's place settles before the next key
  await page.waitForTimeout(1000)
  await page.keyboard.press('ArrowDown')
  await page.waitForTimeout(1000)
  await page.keyboard.press('Space')
  await expect
    .poll(async () => (await order()).indexOf('Round the lip'))
    .toBe(before.indexOf('Ease neck into lip'))
  // Both orders are sound, and the numbers still rise
  await expect(page.getByTestId('lathe-state')).toHaveText(/rebuilt/)
  const numbers = (await route.getByRole('listitem').allInnerTexts()).map((t) =>
    Number.parseInt(t, 10),
  )
  expect(numbers).toEqual([...numbers].sort((a, b) => a - b))
})
