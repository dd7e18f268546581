import { expect, type Page, test } from '@playwright/test'
import {
  accessible,
  add,
  commit,
  drawLines,
  line,
  look,
  newWorkpiece,
  outline,
  over,
  places,
  stage,
} from './bench'

const canvasOf = (page: Page) => page.getByRole('region', { name: 'Stage' }).locator('canvas')

test('a lead is drawn in space by mouse and by typing, its corners rounded, and a wire swept along it', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'w')
  await expect(line(page, 'Path 1')).toContainText('40 mm long')

  // On the level sheet, seen from above; then on one that stands, seen from the front.
  await page.getByRole('button', { name: 'top', exact: true }).click()
  await page.getByRole('button', { name: 'Draw on the Stage' }).click()
  const box = (await canvasOf(page).boundingBox())!
  const at = { x: box.x + box.width * 0.62, y: box.y + box.height * 0.3 }
  await page.mouse.move(at.x, at.y)
  await expect(page.getByTestId('hover')).toHaveText(/^-?\d+, \d+, 0$/)
  const hover = (await page.getByTestId('hover').textContent())!
  await page.mouse.down()
  await page.mouse.up()
  await expect(page.getByLabel('Place 3 x', { exact: true })).toHaveValue(hover.split(', ')[0]!)
  await expect(page.getByLabel('Place 3 y', { exact: true })).toHaveValue(hover.split(', ')[1]!)
  // A drag turns the view and adds nothing.
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  await page.mouse.move(at.x + 60, at.y + 20, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByLabel('Place 4 x', { exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'front', exact: true }).click()
  await page.keyboard.press('q')
  await expect(page.getByLabel('The sheet lies')).toHaveValue('front')
  await page.mouse.move(at.x, at.y)
  await expect(page.getByTestId('hover')).toHaveText(/, -?\d+, [1-9]\d*$/)
  await page.mouse.down()
  await page.mouse.up()
  await expect(page.getByLabel('Place 4 z', { exact: true })).not.toHaveValue('0')
  await page.getByRole('button', { name: 'Done drawing' }).click()

  // Once more by numbers only.
  for (const n of [4, 3]) await page.getByRole('button', { name: `Take out place ${n}` }).click()
  await places(page, ['+0 30 0', '+0 0 25'])
  await expect(line(page, 'Path 1')).toContainText('95 mm long')
  await accessible(page)

  // In plan the second place is dragged, and the others stay where they are.
  const spot = (await page.getByTestId('plan-2').boundingBox())!
  const [cx, cy] = [spot.x + spot.width / 2, spot.y + spot.height / 2]
  // 30 mm lie between places 2 and 3.
  const px = (spot.y - (await page.getByTestId('plan-3').boundingBox())!.y) / 30
  await page.mouse.move(cx, cy)
  await page.mouse.down()
  await page.mouse.move(cx + 10 * px, cy + 4 * px, { steps: 5 })
  await page.mouse.up()
  await expect(page.getByLabel('Place 2 x', { exact: true })).toHaveValue(/^(49\.9|50|50\.1)$/)
  await expect(page.getByLabel('Place 2 y', { exact: true })).toHaveValue(/^-(3\.9|4|4\.1)$/)
  await expect(page.getByLabel('Place 3 x', { exact: true })).toHaveValue(/^-(9\.9|10|10\.1)$/)
  await expect(page.getByLabel('Place 3 y', { exact: true })).toHaveValue(/^(33\.9|34|34\.1)$/)
  await page.keyboard.press('Control+z')
  await expect(line(page, 'Path 1')).toContainText('95 mm long')
  await page.getByRole('button', { name: /^Round the corners by 5 mm/ }).click()
  await commit(page, 'Corners', '8')
  // Two corners of 90 degrees: 16 less and 4 pi more each.
  const way = 95 - 32 + 8 * Math.PI
  await expect(line(page, 'Path 1')).toContainText(
    `${Math.round(way * 100) / 100} mm long, least radius 8 mm`,
  )

  await stage(page, 'Form')
  await add(page, 's')
  await expect(line(page, 'Sweep 1')).toContainText(
    `+${((4 * Math.PI * way) / 1000).toFixed(1)} cm³`,
    {
      timeout: 300_000,
    },
  )
  // It bends with 8: a wire of 17 would fold, and says where.
  await commit(page, 'Diameter', '17')
  await expect(line(page, 'Sweep 1')).toContainText('fails', { timeout: 300_000 })
  await expect(page.getByText(/^Fails. The section.*bends with a radius of 8/)).toBeVisible()
  await commit(page, 'Diameter', '6')
  await page.getByLabel('Section', { exact: true }).selectOption('rectangle')
  await commit(page, 'Width', '6')
  await commit(page, 'Height', '2')
  await expect(line(page, 'Sweep 1')).toContainText(`+${((12 * way) / 1000).toFixed(1)} cm³`, {
    timeout: 300_000,
  })
  await page.getByRole('button', { name: 'Station', exact: true }).click()
  await page.getByRole('button', { name: 'Station', exact: true }).click()
  await commit(page, 'Station 2 width', '2')
  await expect(line(page, 'Sweep 1')).toContainText(`+${((18 * way) / 1000).toFixed(1)} cm³`, {
    timeout: 300_000,
  })

  // Its upright sides do not lean against a pull along z; looked at with stripes and by their lean.
  await stage(page, 'Gauge')
  await page.getByRole('button', { name: '+ Draft' }).click()
  await expect(page.getByTestId('gauge-draft')).toContainText('0.00°')
  // It widens evenly along its middle: where a bend begins its sides, which are longer or shorter, kink a little.
  await page.getByRole('button', { name: '+ Continuity' }).click()
  await expect(page.getByTestId('gauge-seams')).toHaveText('G0')
  await page.getByTestId('gauge-seams').click()
  await expect(page.getByText(/\d+ seams/)).toBeVisible()
  await page
    .getByText(/along round1 \/ /)
    .first()
    .hover()
  await page.keyboard.press('e')
  await expect(page.getByTestId('look')).toContainText('Mirrored stripes')
  await page.keyboard.press('Shift+E')
  await expect(page.getByTestId('look')).toContainText('leans less')
  await accessible(page)
  await page.getByRole('button', { name: 'How tightly it bends' }).click()
  await expect(page.getByTestId('look')).toContainText('hatched: tighter')
  await page.getByLabel('What is shown').selectOption('product')
  await expect(page.getByTestId('look')).toContainText('saddle')
  await page.getByRole('button', { name: '+ Least radius' }).click()
  await expect(page.getByTestId('gauge-bends')).toContainText('mm')
  await accessible(page)
  await page.keyboard.press('u')
  await expect(page.getByTestId('look')).toHaveCount(0)
})

test('three drawings are lofted, reordered on the rack, turned on, and closed by a point', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  const drawn = async (on: string, size: number) => {
    await stage(page, 'Draw')
    await add(page, 'p')
    await page.getByLabel('On', { exact: true }).selectOption({ label: on })
    const [a, b] = [-size / 2, size / 2]
    await drawLines(page, [`${a} ${a}`, `${b} ${a}`, `${b} ${b}`, `${a} ${b}`, `${a} ${a}`])
    await page.keyboard.press('Escape')
  }
  const plane = async (name: string, height: string) => {
    await stage(page, 'Draw')
    await add(page, 'd')
    await page.getByLabel('From', { exact: true }).selectOption('top')
    await commit(page, 'Distance', height)
    await expect(line(page, name)).toContainText(`${height}`)
  }
  await drawn('top', 20)
  await plane('Datum plane 1', '30')
  await drawn('Datum plane 1', 30)
  await plane('Datum plane 2', '60')
  await drawn('Datum plane 2', 20)

  // All drawings nothing uses yet are taken, in their order: side 20 + 40 t (1 - t), by Simpson's rule for its square.
  await stage(page, 'Form')
  await add(page, 'l')
  await expect(page.getByTestId('section-of-loft')).toHaveCount(3)
  await expect(line(page, 'Loft 1')).toContainText('3 sections, +43.2 cm³', { timeout: 300_000 })
  await accessible(page)

  // The wide one is dragged to the end: the skin would have to come back through itself.
  const grip = async (n: number) => {
    const box = (await page.getByRole('button', { name: `Move section ${n}` }).boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  const [from, to] = [await grip(2), await grip(3)]
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x, from.y + 8, { steps: 3 })
  await page.mouse.move(to.x, to.y + 4, { steps: 5 })
  await page.mouse.up()
  await expect(line(page, 'Loft 1')).not.toContainText('+43.2 cm³', { timeout: 300_000 })
  await page.keyboard.press('Control+z')
  await expect(line(page, 'Loft 1')).toContainText('+43.2 cm³', { timeout: 300_000 })

  // Matched two corners on it is twisted, which is said with the place.
  await page.getByLabel('Matching of section 2 turned on by').fill('2')
  await expect(line(page, 'Loft 1')).toContainText('fails', { timeout: 300_000 })
  await page.keyboard.press('Control+z')
  await expect(line(page, 'Loft 1')).toContainText('+43.2 cm³', { timeout: 300_000 })
})

test('a skin runs on from the faces beside two picked ends, and is measured to', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  const block = async (places: string[], on: string, length: string, name: string) => {
    await stage(page, 'Draw')
    await add(page, 'p')
    await page.getByLabel('On', { exact: true }).selectOption({ label: on })
    await drawLines(page, places)
    await page.keyboard.press('Escape')
    await stage(page, 'Form')
    await add(page, 'e')
    await page.getByLabel('Result', { exact: true }).selectOption('new')
    await commit(page, 'Length', length)
    await commit(page, 'Draft', '5 deg')
    await expect(line(page, name)).toContainText('cm³', { timeout: 300_000 })
  }
  await block(['-20 -15', '20 -15', '20 15', '-20 15', '-20 -15'], 'top', '10', 'Extrude 1')
  await stage(page, 'Draw')
  await add(page, 'd')
  await page.getByLabel('From', { exact: true }).selectOption('top')
  await commit(page, 'Distance', '45')
  await block(['-6 -5', '10 -5', '10 7', '-6 7', '-6 -5'], 'Datum plane 1', '10', 'Extrude 2')
  await page.getByRole('button', { name: 'Fit to view' }).click()

  await add(page, 'l')
  const faceOf = async (body: string, from: string, what: RegExp) => {
    await page.getByLabel('Add a section').selectOption({ label: `a face of ${body}, picked` })
    await page.getByRole('button', { name: from, exact: true }).click()
    const { x, y } = await over(page, what)
    await page.mouse.click(x, y)
  }
  await faceOf('Body 1', 'top', /end of Extrude 1/)
  await expect(page.getByTestId('section-of-loft')).toHaveCount(1)
  // Its lower side is seen from below.
  const stageBox = (await canvasOf(page).boundingBox())!
  await page.getByLabel('Add a section').selectOption({ label: 'a face of Extrude 2, picked' })
  await page.getByRole('button', { name: 'front', exact: true }).click()
  const [mx, my] = [stageBox.x + stageBox.width / 2, stageBox.y + stageBox.height / 2]
  await page.mouse.move(mx + 180, my)
  await page.mouse.down()
  await page.mouse.move(mx + 180, my - 110, { steps: 8 })
  await page.mouse.up()
  const low = await over(page, /start of Extrude 2/)
  await page.mouse.click(low.x, low.y)
  await expect(page.getByTestId('section-of-loft')).toHaveCount(2)
  await page.getByLabel('Begins', { exact: true }).selectOption('on')
  await page.getByLabel('Ends', { exact: true }).selectOption('bent')
  await expect(line(page, 'Loft 1')).toContainText(/beginning runs on within 0(\.0\d*)?°/, {
    timeout: 300_000,
  })
  await expect(line(page, 'Loft 1')).toContainText(/end runs on within 0(\.0\d*)?° and 0/)
  await accessible(page)
})

test('a path goes on from one into another by a curve, and its comb shows how its curvature runs', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  const path = async (...places: [string, string, string][]) => {
    await stage(page, 'Draw')
    await add(page, 'w')
    for (const [i, at] of places.entries())
      for (const [k, axis] of ['x', 'y', 'z'].entries())
        await commit(page, `Place ${i + 1} ${axis}`, at[k]!)
  }
  await path(['0', '0', '0'], ['30', '0', '0'])
  await expect(line(page, 'Path 1')).toContainText('30 mm long')
  await path(['50', '25', '20'], ['0', '35', '0'])
  await expect(line(page, 'Path 2')).toContainText('35 mm long')
  await add(page, 'w')
  await page.getByLabel('Runs', { exact: true }).selectOption('blend')
  await page.getByLabel('Leaves', { exact: true }).selectOption({ label: 'Path 1' })
  await page.getByLabel('Goes on in', { exact: true }).selectOption({ label: 'Path 2' })
  await expect(line(page, 'Path 3')).toContainText('joints within 0° and 0 % of curvature')
  const whole = await line(page, 'Path 3').textContent()
  await commit(page, 'Keeps to first', '1.6')
  await expect(line(page, 'Path 3')).not.toHaveText(whole!)
  await expect(line(page, 'Path 3')).toContainText('joints within 0° and 0 % of curvature')

  await page.getByRole('button', { name: 'Fit to view' }).click()
  const before = await canvasOf(page).screenshot()
  await page.getByRole('button', { name: 'Curvature comb of the chosen path' }).click()
  await expect(async () =>
    expect((await canvasOf(page).screenshot()).equals(before)).toBe(false),
  ).toPass()
  await accessible(page)

  // Along it a wire, from the same two paths.
  await stage(page, 'Form')
  await add(page, 's')
  await page.getByLabel('Path', { exact: true }).selectOption({ label: 'Path 3' })
  await expect(line(page, 'Sweep 1')).toContainText('cm³', { timeout: 300_000 })
})

test('the sheet is laid on a picked face and through three places; a helping place is passed by', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await outline(page, ['-30 -20', '30 -20', '30 20', '-30 20'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '25')
  await expect(line(page, 'Extrude 1')).toContainText('+60.0 cm³', { timeout: 300_000 })
  await stage(page, 'Draw')
  await add(page, 'w')
  await look(page, 'corner')
  await page.getByRole('button', { name: 'Draw on the Stage' }).click()
  await page.getByRole('button', { name: 'Lay it on a face' }).click()
  const top = await over(page, 'end of Extrude 1')
  await page.mouse.click(top.x, top.y)
  await expect(page.getByLabel('The sheet lies')).toHaveValue('own')
  // Everything the pointer meets now lies at the height of the face.
  await page.mouse.move(top.x + 12, top.y + 6)
  await expect(page.getByTestId('hover')).toHaveText(/^-?\d+, -?\d+, 25$/)
  await page.mouse.click(top.x + 12, top.y + 6)
  await expect(page.getByLabel('Place 3 z', { exact: true })).toHaveValue('25')

  // Through three places of one upright side.
  await page.getByRole('button', { name: 'Lay it through three places' }).click()
  await look(page, 'front')
  const side = await over(page, /line\d of Extrude 1/)
  for (const [dx, dy] of [
    [0, 0],
    [8, 0],
    [0, 8],
  ] as const)
    await page.mouse.click(side.x + dx, side.y + dy)
  await expect(page.getByRole('button', { name: 'Lay it through three places' })).toBeVisible()
  await page.mouse.move(side.x + 4, side.y + 3)
  await expect(page.getByTestId('hover')).toHaveText(/^-?\d+, -?20, \d+$/)
  await page.mouse.click(side.x + 4, side.y + 3)
  await expect(page.getByLabel('Place 4 y', { exact: true })).toHaveValue(/^-?20$/)
  await page.getByRole('button', { name: 'Done drawing' }).click()

  const long = await line(page, 'Path 1').textContent()
  await page.getByRole('button', { name: 'Place 3 only helps' }).click()
  await expect(line(page, 'Path 1')).not.toHaveText(long!)
  await expect(page.getByRole('button', { name: 'Place 3 only helps' })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await accessible(page)
})
