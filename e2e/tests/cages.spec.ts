import { expect, type Page, test } from '@playwright/test'
import {
  accessible,
  add,
  button,
  choose,
  click,
  commit,
  line,
  look,
  newWorkpiece,
  picked,
  picks,
  stage,
  typed,
  welcomed,
} from './bench'

/** Picks what is called so on the cage, by the mouse on what is seen. */
async function pick(page: Page, what: string, name: string): Promise<void> {
  await button(page, what).click()
  await click(page, new RegExp(`${name}(?!\\d)`))
  await expect(picks(page)).toHaveText(new RegExp(name.replace(/^(point|edge|face) /, '')))
}

test('a garlic keeper by hand: ten columns pushed and pulled alike, a stem carried out and bent, parted', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Form')
  await add(page, 'g')
  await commit(page, 'Cage columns', '10')
  await commit(page, 'Cage bands', '6')
  await page.getByLabel('Lid', { exact: true }).selectOption('shut')
  await commit(page, 'Turns that map it onto itself', '7')
  await expect(line(page, 'Cage 1')).toContainText('Turns it has: 10, 5, 2')
  await commit(page, 'Turns that map it onto itself', '10')
  await expect(line(page, 'Cage 1')).toContainText('61 faces, 10 alike', { timeout: 300_000 })

  // A row drawn in by dragging the jaw of the caliper; the form follows while it is dragged.
  await pick(page, 'rows', 'row 5')
  const jaw = (await button(page, 'Drag out').boundingBox())!
  await page.mouse.move(jaw.x + 10, jaw.y + 10)
  await page.mouse.down()
  await page.mouse.move(jaw.x + 30, jaw.y + 16, { steps: 4 })
  await page.mouse.move(jaw.x + 50, jaw.y + 22, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByTestId('cage-edit-e1')).toContainText('Move row 5')
  const dragged = Number(await page.getByLabel('Edit out').inputValue())
  expect(Math.abs(dragged)).toBeGreaterThan(3)
  await commit(page, 'Edit out', '-12')

  // One face is picked, all ten go out; the lid makes a stem.
  await pick(page, 'faces', 'face f1\\.\\d')
  await button(page, 'Carry out').click()
  await commit(page, 'Edit by', '3')
  await button(page, 'top').click()
  await pick(page, 'faces', 'face lid')
  await button(page, 'Carry out').click()
  await commit(page, 'Edit by', '16')
  await commit(page, 'Edit drawn to', '0.4')

  // Bending it aside: the symmetry does not allow that, until it is let go there.
  await button(page, 'Move').click()
  await commit(page, 'Edit out', '0')
  await commit(page, 'Edit x', '7')
  await expect(page.getByText('The symmetry does not allow this').first()).toBeVisible({
    timeout: 300_000,
  })
  await button(page, 'Take edit 4 away').click()
  await button(page, 'Let go').click()
  await button(page, 'Move').click()
  await commit(page, 'Edit out', '0')
  await commit(page, 'Edit x', '7')
  await expect(page.getByTestId('cage-edit-e5')).toContainText('Move lid')

  // An edit is left out and put back.
  await button(page, 'Leave edit 2 out').click()
  await expect(button(page, 'Put edit 2 back')).toBeVisible()
  await button(page, 'Put edit 2 back').click()
  await expect(line(page, 'Cage 1')).toContainText('91 faces', { timeout: 300_000 })
  await expect(page.getByText('The symmetry does not allow this')).toHaveCount(0)

  await stage(page, 'Refine')
  await add(page, 'p')
  await commit(page, 'Height', '52')
  await expect(line(page, 'Split 1')).toContainText('above', { timeout: 300_000 })
  // The lower part is hollowed from where it was parted, in two lines of 0.6, picked while it is still being hollowed closed; the lid is
  // centred in its opening.
  await button(page, 'Hide Body 1 upper').click()
  await add(page, 's')
  await choose(page, 'Body', { label: 'Body 1' })
  await look(page, 'top')
  await click(page, 'cut of Split 1')
  await picked(page)
  await commit(page, 'Wall', '1.2')
  await expect(line(page, 'Shell 1')).toContainText('wall 1.20 mm', { timeout: 300_000 })
  await button(page, 'Show Body 1 upper').click()
  await add(page, 'n')
  await choose(page, 'Step on', { label: 'Body 1 upper' })
  await choose(page, 'Centred in', { label: 'Body 1' })
  await expect(line(page, 'Centring step 1')).toContainText('gap 0.3 mm at least', {
    timeout: 300_000,
  })
  // An air hole through both sides.
  await stage(page, 'Draw')
  await add(page, 'p')
  await choose(page, 'On', { label: 'front' })
  await expect(page.getByRole('region', { name: 'Drafting table' })).toBeVisible()
  await page.keyboard.press('c')
  await typed(page, 'Type a place', ['0 26', '3.5 26'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'e')
  await choose(page, 'Result', { label: 'Taken from' })
  await choose(page, 'Body', { label: 'Body 1' })
  await choose(page, 'Which way', { label: 'Half to each side' })
  await commit(page, 'Length', '130')
  await expect(line(page, 'Extrude 1')).toContainText('−', { timeout: 300_000 })
  // Built upside down less of it overhangs, or more, and that is told.
  await stage(page, 'Gauge')
  await button(page, '+ Overhang').click()
  await expect(page.getByTestId('gauge-overhang')).toContainText(/^[\d.]+ mm²$/)
  await page.getByTestId('gauge-overhang').click()
  await expect(page.getByText('begins in the air', { exact: true })).toBeVisible()
  await commit(page, 'Built along', '7')
  await expect(page.getByText(/It is built along 1 \(x\), 2 \(y\) or 3 \(z\)/)).toBeVisible()
  await commit(page, 'Built along', '-3')
  await expect(page.getByTestId('gauge-overhang')).toContainText(/^[\d.]+ mm²$/)
})

test('a crock: creased columns, rows sized and twisted, ribs carried out, flanks pulled to peaks; a room with a drain', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Form')
  await add(page, 'g')
  await commit(page, 'Cage columns', '12')
  await commit(page, 'Cage radius', '48')
  await commit(page, 'Cage height', '110')
  await button(page, 'find').click()
  await expect(page.getByLabel('Turns that map it onto itself')).toHaveValue('12')
  await page.getByLabel('Mirrored along x').uncheck()
  await page.getByLabel('Mirrored along y').uncheck()
  await expect(line(page, 'Cage 1')).toContainText('48 faces, 12 alike; 4 on the body, exact', {
    timeout: 300_000,
  })
  // Every second one by its turns, and the one beside it.
  await commit(page, 'Turns that map it onto itself', '6')
  await pick(page, 'columns', 'column \\d+')
  const column = Number(/\d+$/.exec((await picks(page).textContent())!)![0])
  await click(page, new RegExp(`column ${(column + 1) % 12}(?!\\d)`))
  await button(page, 'Crease').click()
  await expect(line(page, 'Cage 1')).toContainText('14 on the body, exact', { timeout: 300_000 })
  await button(page, 'Rows').click()
  for (const [row, size, twist] of [
    ['1', '1.1', '30'],
    ['2', '1.15', '24'],
    ['3', '1', '18'],
    ['4', '1.05', '12'],
  ] as const) {
    await commit(page, `Row ${row} size`, size)
    await commit(page, `Row ${row} twist`, twist)
  }
  // What the turns add up to stands beside them.
  await expect(page.getByTestId(/^rows-of-/)).toContainText('84.0°')
  await expect(line(page, 'Cage 1')).toContainText('+831.4 cm³', { timeout: 300_000 })

  // Ribs: faces over each other in one column are carried out, and in every second one with it.
  await look(page, 'front')
  await pick(page, 'faces', 'face f2\\.6')
  for (const row of [1, 3]) await click(page, new RegExp(`face f${row}\\.6(?!\\d)`))
  await button(page, 'Carry out').click()
  await commit(page, 'Edit by', '3')
  await commit(page, 'Edit drawn to', '0.7')
  await expect(line(page, 'Cage 1')).toContainText(/44 on the body, within 0\.00\d+ mm/, {
    timeout: 300_000,
  })
  // Both flanks, at the sides of this view, are let go and pulled out to peaks.
  await button(page, 'none').click()
  await pick(page, 'points', 'point 2\\.4')
  await click(page, /point 2\.10/)
  await button(page, 'Let go').click()
  await button(page, 'Move').click()
  await commit(page, 'Edit out', '9')
  await expect(line(page, 'Cage 1')).toContainText('+84', { timeout: 300_000 })
  await expect(line(page, 'Cage 1')).toContainText(/44 on the body, within 0\.00\d+ mm/)
  await look(page, 'corner')

  const slider = page.getByRole('slider', { name: 'From the bare cage to the smooth form' })
  await slider.focus()
  await page.keyboard.press('Home')
  await expect(slider).toHaveAttribute('aria-valuenow', '0')

  // Every crease is in a list: found on the Stage, dropped; of what was let go of the symmetry by itself.
  await expect(page.getByTestId('creases')).toHaveText('24 creases')
  await page.getByTestId('creases').click()
  await button(page, 'Find crease 1').click()
  await expect(page.getByTestId('cage-picks')).toHaveText(/edges$|~/)
  await accessible(page)
  await button(page, 'Drop crease 1').click()
  await expect(page.getByTestId('creases')).toHaveText('23 creases')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('creases')).toHaveText('24 creases')
  // A round room under it, opened at the top face; with a thicker wall it is smaller, and what is too thick is told.
  await stage(page, 'Refine')
  await add(page, 'h')
  await look(page, 'top')
  await click(page, /end\d of Cage 1/)
  await picked(page)
  await expect(line(page, 'Room 1')).toContainText('least wall 2 mm', { timeout: 300_000 })
  await commit(page, 'Least wall', '4')
  await expect(line(page, 'Room 1')).toContainText('least wall 4 mm', { timeout: 300_000 })
  // Its rim follows the outline, set off.
  await commit(page, 'Rim', '5.5')
  await expect(line(page, 'Room 1')).toContainText('beside its rim', { timeout: 300_000 })
  await commit(page, 'Drain hole', '8')
  await commit(page, 'Rim', '')
  await commit(page, 'Least wall', '50')
  await expect(page.getByText(/there is no room .* here/).first()).toBeVisible({
    timeout: 300_000,
  })
  await commit(page, 'Least wall', '4')
  await expect(line(page, 'Room 1')).toContainText('least wall 4 mm', { timeout: 300_000 })
})

test('while a pot with a room inside is pushed, the wall left over the room is told where it is least', async ({
  page,
}) => {
  test.slow()
  await welcomed(page)
  await page.goto('/')
  await page.getByRole('button', { name: 'Start from' }).click()
  await page.getByRole('menuitem', { name: 'Cage pot' }).click()
  await page.waitForURL(/\/brief$/)
  await expect(line(page, 'Room inside')).toContainText('least wall 3', { timeout: 300_000 })
  await stage(page, 'Form')
  await line(page, 'Pot').first().click()
  await pick(page, 'rows', 'row 2')
  const jaw = (await button(page, 'Drag out').boundingBox())!
  await page.mouse.move(jaw.x + 10, jaw.y + 10)
  await page.mouse.down()
  const told = page.getByTestId('live-wall')
  const words = new Set<string>()
  for (const by of [8, 16, 24, -8, -16, -24, -32]) {
    await page.mouse.move(jaw.x + 10 + by, jaw.y + 10 + by / 3, { steps: 2 })
    await expect(told).toContainText(/wall about|stands out/)
    words.add((await told.textContent())!)
  }
  // One way it is drawn in, the other let out: somewhere on it the wall is too little.
  expect([...words].some((w) => /under 3 mm|stands out/.test(w))).toBe(true)
  expect(words.size).toBeGreaterThan(2)
  await page.mouse.up()
  // Let go, the room is fitted anew.
  await expect(told).toHaveCount(0)
  await expect(line(page, 'Room inside')).toContainText('least wall 3', { timeout: 300_000 })
})
