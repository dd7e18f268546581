import { expect, type Page, test } from '@playwright/test'
import {
  accessible,
  add,
  click,
  commit,
  drawing,
  line,
  look,
  newWorkpiece,
  outline,
  picked,
  stage,
} from './bench'

/** A level plane over the top one, and a square of so many mm each way on it. */
async function squareAt(page: Page, height: number, half: number, plane: string): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'd')
  await commit(page, 'Distance', String(height))
  const [a, b] = [-half, half]
  await drawing(page, plane, [`${a} ${a}`, `${b} ${a}`, `${b} ${b}`, `${a} ${b}`, `${a} ${a}`])
}

test('a thread dragged on the Stage matches otherwise, and a rail is drawn where a skin bends most', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await outline(page, ['-20 -20', '20 -20', '20 20', '-20 20'])
  await squareAt(page, 40, 8, 'Datum plane 1')
  await squareAt(page, 80, 20, 'Datum plane 2')
  await stage(page, 'Form')
  await add(page, 'l')
  await expect(page.getByTestId('section-of-loft')).toHaveCount(3)
  await expect(line(page, 'Loft 1')).toContainText(/3 sections, \+[\d.]+ cm³/, { timeout: 300_000 })
  // Four threads with an end on each of three sections.
  await expect(page.getByTestId('thread-end')).toHaveCount(12)
  const end = (corner: number) =>
    page.getByRole('button', { name: `Corner ${corner} of section 3`, exact: true })
  const [from, to] = [(await end(1).boundingBox())!, (await end(2).boundingBox())!]
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x + 6, to.y + 8, { steps: 5 })
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2)
  await page.mouse.up()
  const turned = page.getByLabel('Matching of section 3 turned on by')
  await expect(turned).toHaveValue('1')
  await page.keyboard.press('Control+z')
  await expect(turned).toHaveValue('0')

  await expect(page.getByTestId('next-rail')).toContainText(/with a radius of [\d.]+ mm/)
  await accessible(page)
  await page.getByRole('button', { name: 'Draw a rail there' }).click()
  await expect(line(page, 'Rail 1')).toContainText('long')
  await expect(line(page, 'Loft 1')).toContainText(/a rail met within/, { timeout: 300_000 })
})

test('a coil is wound, carried and read: lines of its surface, how it bends, its sections along the way', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'w')
  await page.getByLabel('Runs', { exact: true }).selectOption('helix')
  await commit(page, 'Radius', '22')
  await commit(page, 'Turns', '2.5')
  await commit(page, 'Height', '34')
  await expect(line(page, 'Path 1')).toContainText('least radius')
  await stage(page, 'Form')
  await add(page, 's')
  await page.getByLabel('Section', { exact: true }).selectOption('rectangle')
  await commit(page, 'Width', '5')
  await commit(page, 'Height', '9')
  await expect(line(page, 'Sweep 1')).toContainText(/\+15\.\d cm³/, { timeout: 300_000 })
  await commit(page, 'Size at end', '0.4')
  await expect(line(page, 'Sweep 1')).toContainText(/\+[78]\.\d cm³/, { timeout: 300_000 })

  await page.getByRole('button', { name: 'Lines of its surfaces' }).click()
  await expect(page.getByTestId('lines')).toContainText('each way on a face')
  await stage(page, 'Gauge')
  await page.getByRole('button', { name: 'How a path bends' }).click()
  // Radius 22 with 34 / 2.5 of rise a turn: (r² + c²) / r.
  const c = 34 / 2.5 / (2 * Math.PI)
  const radius = (22 ** 2 + c ** 2) / 22
  await expect(page.getByTestId('chart-says')).toContainText(`radius ${radius.toFixed(2)} mm`)
  await page.locator('select[aria-label=Chart]').selectOption('sections')
  await expect(page.getByTestId('chart-says')).toContainText(/7\.\d mm² .* to 4[45]\.\d mm²/, {
    timeout: 300_000,
  })
  await accessible(page)
  await page.getByRole('button', { name: '+ Ripple' }).click()
  await expect(page.getByTestId('gauge-ripple')).toContainText(/\d/, { timeout: 300_000 })
})

test('what holds between places of a path is typed, dimensioned in the plan, and let go where it conflicts', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'w')
  const type = async (place: string) => {
    const entry = page.getByLabel('Type a place of the path')
    await entry.fill(place)
    await entry.press('Enter')
    await expect(entry).toHaveValue('')
  }
  await type('43 28 3')
  await type('41 33 25')
  const hold = async (kind: string, fields: Record<string, string>) => {
    const rows = page.getByTestId('path-hold')
    const n = (await rows.count()) + 1
    await page.getByLabel('Add a hold', { exact: true }).selectOption(kind)
    await expect(rows).toHaveCount(n)
    for (const [label, value] of Object.entries(fields))
      await page.getByLabel(`${label} of hold ${n}`, { exact: true }).selectOption(value)
  }
  await hold('along', { Place: '2', Axis: 'x' })
  await hold('along', { Place: '3', Axis: 'y' })
  await hold('along', { Place: '4', Axis: 'z' })
  await hold('apart', { Place: '1', 'Other place': '2' })
  await expect(line(page, 'Path 1')).toContainText('4 held, free in 5 ways')
  const plan = page.getByLabel('Distance 1 to 2 in the plan')
  await plan.fill('52')
  await plan.press('Enter')
  await expect(page.getByLabel('Value of hold 4', { exact: true })).toHaveValue('52')
  await hold('apart', { Place: '2', 'Other place': '1', Way: 'x' })
  await commit(page, 'Value of hold 5', '40')
  await expect(page.getByText(/These cannot hold together/).last()).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: /Let go: 2 to 1 along x: 40/ }).click()
  await expect(line(page, 'Path 1')).toContainText('4 held')
})

test('a wire is swept along edges of a block that is put away, and follows when the block leans more', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await outline(page, ['-40 -25', '40 -25', '40 25', '-40 25'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '12')
  await commit(page, 'Draft', '8 deg')
  await expect(line(page, 'Extrude 1')).toContainText('cm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 'f')
  await look(page, 'right')
  await click(page, /edge.*line1.*line2/)
  await click(page, /edge.*line2.*line3/)
  await picked(page)
  await commit(page, 'Radius', '9')
  await expect(line(page, 'Fillet 1')).toContainText('mm³', { timeout: 300_000 })

  // One edge of the top, and all that run on in it.
  await stage(page, 'Draw')
  await add(page, 'w')
  await page.getByLabel('Runs', { exact: true }).selectOption('edges')
  await page.getByRole('button', { name: 'Pick edges' }).click()
  await look(page, 'right')
  await click(page, /edge.*(end.*line2|line2.*end)/)
  await picked(page)
  await page.getByLabel('And', { exact: true }).selectOption('smooth')
  await expect(line(page, 'Path 1')).toContainText(/mm long, least radius/)
  await stage(page, 'Form')
  await add(page, 's')
  await commit(page, 'Diameter', '4')
  await expect(line(page, 'Sweep 1')).toContainText(/\+[12]\.\d cm³/, { timeout: 300_000 })
  const before = await line(page, 'Path 1').textContent()
  await page.getByRole('button', { name: 'Put Body 1 away' }).click()
  await page
    .getByRole('navigation', { name: 'Route' })
    .getByText('Extrude 1', { exact: true })
    .click()
  await commit(page, 'Length', '18')
  await expect(line(page, 'Path 1')).not.toHaveText(before!, { timeout: 300_000 })
  await expect(line(page, 'Sweep 1')).toContainText(/\+[12]\.\d cm³/, { timeout: 300_000 })
})
