import { expect, type Page, test } from '@playwright/test'
import { commit, drawLines, figure, newWorkpiece, openDemo, routeRow, saved, stage } from './bench'

const point = (page: Page, id: string) =>
  page.locator(`[data-testid="drawn-point"][data-name="${id}"]`)
const piece = (page: Page, id: string) =>
  page.locator(`[data-testid="drawn-piece"][data-name="${id}"]`)
const hold = (page: Page, name: RegExp) =>
  page
    .getByRole('group', { name: /^Hold / })
    .getByRole('button', { name })
    .click()
const freedom = (page: Page) => page.getByTestId('freedom')

test('a half-section from nothing to fully held: figures drive it, a conflict is named and released', async ({
  page,
}) => {
  test.setTimeout(2_400_000)
  page.setDefaultTimeout(10_000)
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await figure(page, 'belly', '70 mm')
  await figure(page, 'neck', '28 mm')
  await figure(page, 'length', '80 mm')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await drawLines(page, ['0 0', '35 0', '35 50', '14 80', '0 80'])
  // Fitted once all of it is there to be fitted.
  await expect(freedom(page)).toContainText('10 freedoms left')
  await page.keyboard.press('Shift+F')

  // What nearly holds is offered
  for (let i = 0; i < 3; i++) {
    const offer = page.getByRole('button', { name: /Hold (it|them) so/ }).first()
    await offer.click()
    await page.waitForTimeout(400)
  }
  await expect(page.getByRole('button', { name: /Hold (it|them) so/ })).toHaveCount(0)
  await expect(freedom(page)).toContainText('5 freedoms left')

  // Widths as diameters, heights from the base
  await point(page, 'p1').click()
  await hold(page, /^On the base line/)
  await point(page, 'p3').click()
  await hold(page, /^Full width/)
  await hold(page, /^Height/)
  await point(page, 'p4').click()
  await hold(page, /^Full width/)
  await hold(page, /^Height/)
  await expect(freedom(page)).toHaveText('Fully held.')
  await commit(page, 'Full width dim1', 'belly')
  await commit(page, 'Full width dim3', 'neck')
  await commit(page, 'Distance up dim4', 'length')
  await commit(page, 'Distance up dim2', 'length * 0.6')
  await expect(page.getByRole('button', { name: 'Distance up dim2: 48.00' })).toBeVisible()
  await commit(page, 'Value of belly', '76 mm')
  await expect(page.getByRole('button', { name: 'Full width dim1: ⌀ 76.00' })).toBeVisible()

  // A typed value that cannot be leaves all as it was
  await piece(page, 'line1').click({ force: true })
  await hold(page, /^Distance 38/)
  await expect(page.getByRole('list', { name: 'Dimensions' })).toContainText('already so')
  await commit(page, 'Distance dim5', '50')
  await expect(page.getByText(/50 cannot be/)).toBeVisible()
  await expect(page.getByLabel('Distance dim5', { exact: true })).toHaveValue('50')
  await page.getByLabel('Distance dim5', { exact: true }).press('Escape')

  // A figure over-holds it: the culprits are lit, one is released with a click
  await commit(page, 'Value of belly', '90 mm')
  await expect(freedom(page)).toContainText('Over-held')
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText('cannot hold together')
  await page
    .getByRole('list', { name: 'Diagnosis' })
    .getByRole('button', { name: /^Release Distance 38/ })
    .click()
  await expect(freedom(page)).toHaveText('Fully held.')
  await expect(page.getByRole('button', { name: 'Full width dim1: ⌀ 90.00' })).toBeVisible()

  // A held point moves the number that holds it, and one step takes that back; a released one moves itself
  await point(page, 'p4').click()
  const before = await point(page, 'p4').boundingBox()
  await page.mouse.move(before!.x + 5, before!.y + 5)
  await page.mouse.down()
  await page.mouse.move(before!.x + 40, before!.y + 30, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByTestId('pulling')).toContainText(/= [\d.]+/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect
    .poll(async () => Math.round((await point(page, 'p4').boundingBox())!.x))
    .toBe(Math.round(before!.x))

  // It turns, and a second profile projects the body's edge and follows it
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await page.getByText('Reshape', { exact: true }).click()
  await page.getByRole('button', { name: 'Body 1', exact: true }).click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('Profile 2')
  await expect.poll(() => page.locator('[data-testid="drawn-piece"]').count()).toBeGreaterThan(3)
  const all = async () =>
    (
      await page
        .locator('[data-testid="drawn-piece"]')
        .evaluateAll((x) => x.map((e) => e.getAttribute('d')))
    ).join()
  const was = await all()
  await commit(page, 'Value of length', '90 mm')
  await expect.poll(all).not.toBe(was)

  // Ribs to `length - 9 mm`
  await page.getByRole('button', { name: 'Rectangle by corners' }).click()
  const entry = page.getByLabel('Type a place')
  for (const p of ['50 4', '53 7']) {
    await entry.fill(p)
    await entry.press('Enter')
  }
  await entry.press('Escape')
  await page.keyboard.press('Shift+F')
  await page.waitForTimeout(500)
  for (const n of ['line1', 'line2', 'line3', 'line4'])
    await page
      .getByRole('button', { name: n, exact: true })
      .click({ modifiers: n === 'line1' ? [] : ['Shift'] })
  await page.getByRole('button', { name: 'Repeat in a row' }).click()
  await commit(page, 'size of row1', '3')
  await commit(page, 'pitch of row1', '')
  await commit(page, 'extent of row1', 'length - 9 mm')
  await commit(page, 'count of row1', '8')
  await expect(page.getByTestId('row-row1')).toContainText('extent 81.000')
  await commit(page, 'Value of length', '99 mm')
  await expect(page.getByTestId('row-row1')).toContainText('extent 90.000')

  // Reload keeps all
  await saved(page)
  await page.reload()
  await routeRow(page, 'Profile 1').click()
  await expect(freedom(page)).toHaveText('Fully held.')
  await routeRow(page, 'Profile 2').click()
  await page.getByText('Reshape', { exact: true }).click()
  await expect(page.getByTestId('row-row1')).toContainText('extent 90.000')
})

test('outline files come in and go out; what is no outline is refused', async ({ page }) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await page.getByText('Reshape', { exact: true }).click()
  const take = (name: string, text: string) =>
    page
      .getByLabel('Outline file')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  const says = page.getByTestId('outline-says')
  await take(
    'cup.svg',
    '<svg width="60mm" viewBox="0 0 60 80"><path d="M0 0H30V-50L0 -50"/><text>x</text></svg>',
  )
  await expect(says).toContainText('3 pieces, ends within 0.01 mm joined; skipped: 1 text')
  await take('broken.dxf', 'not a drawing')
  await expect(says).toContainText(/not a readable|nothing/)
  await take('part.pdf', 'x')
  await expect(says).toContainText('neither DXF nor SVG')
  await page.getByLabel('Text to set').fill('SALT')
  await page.getByRole('button', { name: 'Set text' }).click()
  await expect(page.getByText(/“SALT”: \d+ pieces/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  const [out] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Write DXF' }).click(),
  ])
  expect(out.suggestedFilename()).toBe('Profile 1.dxf')
  await expect(says).toContainText('3 pieces in mm')
})

test('datums stand on faces and on each other; a drawing goes onto them', async ({ page }) => {
  await openDemo(page)
  await stage(page, 'Draw')
  await routeRow(page, 'Ease the mouth').click()
  await page.getByRole('button', { name: /^Datum axis/ }).click()
  await expect(page.getByText('where both planes meet')).toBeVisible()
  await page.getByLabel('Set', { exact: true }).selectOption('round')
  await page.getByRole('button', { name: 'Pick faces' }).click()
  await page.locator('[data-testid="pick-face"]').nth(2).dispatchEvent('click')
  await page.getByRole('button', { name: 'Done picking' }).click()
  await expect(page.getByText('the axis the face is turned about')).toBeVisible()

  await page.getByRole('button', { name: /^Datum plane/ }).click()
  await page.getByLabel('Set', { exact: true }).selectOption('angle')
  await page.getByLabel('From', { exact: true }).selectOption('front')
  await page.getByLabel('About', { exact: true }).selectOption('axis')
  await page.getByLabel('Axis', { exact: true }).selectOption({ label: 'Datum axis 1' })
  await commit(page, 'Angle', '60 deg')
  await expect(page.getByText('60.00° to front')).toBeVisible()

  await page.getByRole('button', { name: /^Datum point/ }).click()
  await page.getByLabel('Set', { exact: true }).selectOption('meet')
  await page.getByLabel('Axis', { exact: true }).selectOption({ label: 'Datum axis 1' })
  await page.getByLabel('Plane', { exact: true }).selectOption('top')
  await expect(page.getByText('at 0 mm, 0 mm, 0 mm')).toBeVisible()

  await page.getByRole('button', { name: /^Profile/ }).click()
  await page.getByLabel('On', { exact: true }).selectOption({ label: 'Datum plane 1' })
  await expect(page.getByTestId('lathe-state')).toContainText('rebuilt')
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('nothing drawn yet')
})

test('a width is reckoned from what it fits, clears or is printed of', async ({ page }) => {
  await openDemo(page)
  await stage(page, 'Draw')
  await routeRow(page, 'Neck outline').click()
  await page
    .getByRole('button', { name: /^Reckon Full width/ })
    .first()
    .click()
  const reckoner = page.getByRole('dialog')
  await reckoner.getByLabel('What it is reckoned from').selectOption('fits')
  await expect(reckoner.getByTestId('reckoned')).toContainText('Hole H7')
  await reckoner.getByLabel('What it is reckoned from').selectOption('wall')
  await expect(reckoner.getByTestId('reckoned')).toContainText('1.35 mm')
  await reckoner.getByLabel('What it is reckoned from').selectOption('clears')
  await reckoner.getByLabel('diameter').fill('24 mm')
  await reckoner.getByRole('button', { name: 'Take it' }).click()
  await expect(page.getByRole('button', { name: /⌀ 26\.00/ }).first()).toBeVisible()
})

test('typed curves share their ends and are joined without a kink', async ({ page }) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  const entry = page.getByLabel('Type a place')
  const draw = async (tool: string, ...places: string[]) => {
    await page.getByRole('button', { name: tool, exact: true }).click()
    for (const p of places) {
      await entry.fill(p)
      await entry.press('Enter')
    }
  }
  await draw('Arc of an ellipse', '20 0', '45 0', '20 30')
  await draw('Spline by control points', '20 30', '12 31', '6 40', '4 44')
  await entry.press('Enter')
  await draw('Lines', '4 44', '2 60')
  await entry.press('Escape')
  await page.keyboard.press('Shift+F')
  // Seven places were new, one was shared twice over.
  await expect(page.locator('[data-testid="drawn-point"]')).toHaveCount(7)
  const pick = (a: string, b: string) =>
    page
      .getByRole('button', { name: a, exact: true })
      .click()
      .then(() =>
        page.getByRole('button', { name: b, exact: true }).click({ modifiers: ['Shift'] }),
      )
  await pick('oval1', 'spline1')
  await hold(page, /^Tangent$/)
  await pick('spline1', 'line1')
  await hold(page, /^Smooth$/)
  await expect(page.getByRole('list', { name: 'Relations' })).toContainText(
    'spline1 and line1 go on with one curvature',
  )
  await expect(page.getByRole('group', { name: /^Hold / })).not.toContainText('Smooth')
  await expect(freedom(page)).not.toContainText('Over-held')
})
