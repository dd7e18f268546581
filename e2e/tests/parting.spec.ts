import { readFileSync } from 'node:fs'
import { measureMesh, readStl, writeStl } from '@ivory/core/mesh'
import { expect, type Page, test } from '@playwright/test'
import { unzipSync } from 'fflate'
import { add, commit, drawLines, line, newWorkpiece, stage } from './bench'

/** A puck of 60 x 10, turned from half its section. */
async function puck(page: Page) {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'p')
  await drawLines(page, ['0 0', '30 0', '30 10', '0 10'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'r')
  await expect(line(page, 'Revolve 1')).toContainText('+28.3 cm³')
}

test('a dial in two colours: text and notches part it at once, and it leaves as a file each', async ({
  page,
}) => {
  await puck(page)
  await stage(page, 'Draw')
  await add(page, 'd')
  await commit(page, 'Distance', '10')
  await add(page, 't')
  await page.getByLabel('On', { exact: true }).selectOption('Datum plane 1')
  await commit(page, 'Words', 'SOFT 5 HARD 10')
  await commit(page, 'Height', '5')
  await page.getByLabel('Along', { exact: true }).selectOption('arc')
  await commit(page, 'Radius', '20')
  await commit(page, 'Turned', '90 deg')
  await expect(line(page, 'Text 1')).toContainText('11 letters')
  // Too large for one round of the arc, it says how long it is.
  await commit(page, 'Height', '30')
  await expect(line(page, 'Text 1')).toContainText('does not go once round')
  await commit(page, 'Height', '5')

  // Notches: one drawn across the rim, carried down through it, eight round.
  await add(page, 'p')
  await page.getByLabel('On', { exact: true }).selectOption('Datum plane 1')
  await drawLines(page, ['27 -2', '32 -2', '32 2', '27 2', '27 -2'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  await page.getByLabel('Which way', { exact: true }).selectOption('against')
  await commit(page, 'Length', '10')
  await expect(line(page, 'Extrude 1')).toContainText('+200 mm³')
  await stage(page, 'Refine')
  await add(page, 't')
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 1')
  await page.getByLabel('Laid out', { exact: true }).selectOption('round')
  await commit(page, 'How many', '8')
  await expect(line(page, 'Pattern 1')).toContainText('8, apart from each other')

  await add(page, 'p')
  await page.getByLabel('Body', { exact: true }).selectOption('Body 1')
  await page.getByLabel('Part', { exact: true }).selectOption('tools')
  await page.getByRole('checkbox', { name: 'Text 1' }).check()
  await page.getByRole('checkbox', { name: 'Extrude 1' }).check()
  await page.getByLabel('How deep', { exact: true }).selectOption('deep')
  await commit(page, 'Depth', '1.2')
  await expect(line(page, 'Split 1')).toContainText('3 parts', { timeout: 300_000 })
  const tray = page.getByRole('region', { name: 'Tray of bodies' })
  await expect(tray.getByTestId('body')).toHaveCount(3)

  await stage(page, 'Release')
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 300_000 }),
    page.getByRole('button', { name: 'STL each', exact: true }).click(),
  ])
  await expect(page.getByTestId('released')).toContainText('3 STL files, each read again')
  const files = Object.values(unzipSync(readFileSync(await download.path())))
  const volumes = files.map((bytes) => {
    const mesh = readStl(bytes)
    const m = mesh.ok ? measureMesh(mesh.value) : null
    expect(m?.closed).toBe(true)
    return m!.volume
  })
  const sum = volumes.reduce((a, b) => a + b)
  expect(Math.abs(sum / (Math.PI * 900 * 10) - 1)).toBeLessThan(3e-3)
})

test('the wall is shown all over; the cut plane is dragged on the Stage and typed on the Table', async ({
  page,
}) => {
  await puck(page)
  await stage(page, 'Gauge')
  await page.getByRole('button', { name: 'Wall all over' }).click()
  await expect(page.getByTestId('wall-legend')).toContainText('10.00', { timeout: 300_000 })
  await page.getByRole('button', { name: 'Wall all over' }).click()
  await expect(page.getByTestId('wall-legend')).toHaveCount(0)

  // Its lid and its side are picked by the mouse: they meet, and the side has a radius.
  await page.getByRole('button', { name: 'Cut away half' }).click()
  await page.getByRole('button', { name: '+ Between two places' }).click()
  const stageBox = (await page
    .getByRole('region', { name: 'Stage' })
    .locator('canvas')
    .boundingBox())!
  const [cx, cy] = [stageBox.x + stageBox.width / 2, stageBox.y + stageBox.height / 2]
  const pickIn = async (view: string, wanted: string, asks: string | null) => {
    await page.getByRole('button', { name: view, exact: true }).click()
    let nudge = 0
    await expect(async () => {
      nudge = 1 - nudge
      await page.mouse.move(cx + nudge, cy)
      await expect(page.getByTestId('hover')).toContainText(wanted, { timeout: 1000 })
    }).toPass()
    await page.mouse.click(cx, cy)
    if (asks) await expect(page.getByText(asks)).toBeVisible()
  }
  await pickIn('top', 'Revolve 1', 'Click the second face')
  await pickIn('front', 'Revolve 1', null)
  await expect(page.getByTestId('gauge-between')).toHaveText('0.000 mm')
  await page.getByRole('button', { name: 'Cut away half' }).click()
  await page.getByRole('button', { name: 'Take the gauge away' }).click()

  // Cut level at half its height: a circle; the cut as a file.
  await page.getByLabel('Plane of the cut').selectOption('top')
  await commit(page, 'Distance of the cut', '5')
  await expect(page.getByTestId('section')).toHaveCount(1)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'DXF', exact: true }).click(),
  ])
  expect(readFileSync(await download.path(), 'utf8')).toContain('LINE')

  // Standing up, its knob is seen from the right at the middle of its upper edge: it is pulled to the side.
  await page.getByLabel('Plane of the cut').selectOption('side')
  await page.getByRole('button', { name: 'front', exact: true }).click()
  const distance = page.getByLabel('Distance of the cut')
  await expect(distance).toHaveValue('0 mm')
  const canvas = page.getByRole('region', { name: 'Stage' }).locator('canvas')
  const box = (await canvas.boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await expect(async () => {
    // The knob stands over the middle: looked for upwards from there.
    for (let up = 0; up < box.height / 2 - 4; up += 6) {
      await page.mouse.move(x, y - up)
      await page.mouse.down()
      await page.mouse.move(x + 20, y - up, { steps: 3 })
      await page.mouse.move(x + 40, y - up, { steps: 3 })
      await page.mouse.up()
      if ((await distance.inputValue()) !== '0 mm') return
      await page.getByRole('button', { name: 'front', exact: true }).click()
    }
    throw new Error('no knob was met')
  }).toPass()
  await expect(distance).not.toHaveValue('0 mm')
  const pulled = Number.parseFloat(await distance.inputValue())
  expect(pulled).toBeGreaterThan(1)
})

test('triangles from a file stand beside a puck, are taken from it, and say what they cannot', async ({
  page,
}) => {
  await puck(page)
  // A box of 20 x 20 x 30 about the axis of the puck.
  const corner = (i: number) => [i & 1 ? 10 : -10, i & 2 ? 10 : -10, i & 4 ? 20 : -10]
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ] as const
  const bytes = writeStl([
    {
      positions: Float64Array.from(Array.from({ length: 8 }, (_, i) => corner(i)).flat()),
      triangles: Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])),
    },
  ])
  await add(page, 'b')
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'post.stl', mimeType: 'model/stl', buffer: Buffer.from(bytes) })
  await expect(line(page, 'Bring in 1')).toContainText('12.0 cm³, triangles', { timeout: 300_000 })

  // Two bodies in one place are named before they leave.
  await stage(page, 'Release')
  await expect(page.getByText(/overlap by 4000 mm³/)).toBeVisible({ timeout: 300_000 })

  await stage(page, 'Refine')
  await add(page, 'f')
  await page.getByLabel('Body', { exact: true }).selectOption('post')
  await expect(line(page, 'Fillet 1')).toContainText('consists of triangles')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Shift+Delete')
  await add(page, 'j')
  await page.getByLabel('How', { exact: true }).selectOption('cut')
  await page.getByLabel('Body', { exact: true }).selectOption('Body 1')
  await page.getByRole('checkbox', { name: 'post' }).check()
  await expect(line(page, 'Combine 1')).toContainText('−4.0 cm³', { timeout: 300_000 })
  await stage(page, 'Release')
  await page.getByRole('button', { name: 'STEP', exact: true }).click()
  await expect(page.getByTestId('released')).toContainText('of triangles', { timeout: 300_000 })
})

test('a drainer of crossing strips: rings split off, one slab met with the wall, repeated and joined', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'p')
  await drawLines(page, ['0 0', '46 0', '57 90', '0 90'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'r')
  await expect(line(page, 'Revolve 1')).toContainText('cm³')
  // Its open end is picked by the mouse on what is seen from above.
  await stage(page, 'Refine')
  await add(page, 's')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  const canvas = page.getByRole('region', { name: 'Stage' }).locator('canvas')
  const box = (await canvas.boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  let nudge = 0
  await expect(async () => {
    nudge = 1 - nudge
    await page.mouse.move(x + nudge, y - 10)
    await expect(page.getByTestId('hover')).toContainText('Revolve 1', { timeout: 1000 })
  }).toPass()
  await page.mouse.click(x, y - 10)
  await commit(page, 'Wall', '2')
  await expect(line(page, 'Shell 1')).toContainText('wall 2.00 mm')
  for (const [n, height, body] of [
    [1, '10', 'Body 1'],
    [2, '80', 'Body 1 upper'],
  ] as const) {
    await add(page, 'p')
    await page.getByLabel('Body', { exact: true }).selectOption(body)
    await page.getByLabel('Part', { exact: true }).selectOption('height')
    await commit(page, 'Height', height)
    await expect(line(page, `Split ${n}`)).toContainText('below')
  }
  // A slab that leans, drawn on the front plane and carried to both sides.
  await stage(page, 'Draw')
  await add(page, 'p')
  await drawLines(page, ['-28 -5', '-20 -5', '28 95', '20 95', '-28 -5'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  await page.getByLabel('Which way', { exact: true }).selectOption('alike')
  await commit(page, 'Length', '130')
  await expect(line(page, 'Extrude 1')).toContainText('+104.0 cm³')
  await stage(page, 'Refine')
  await add(page, 'j')
  await page.getByLabel('How', { exact: true }).selectOption('meet')
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 1')
  await page.getByRole('checkbox', { name: 'Body 1 upper', exact: true }).check()
  await page.getByLabel('Loose pieces', { exact: true }).selectOption('one')
  await expect(line(page, 'Combine 1')).toContainText('−', { timeout: 300_000 })
  await page.getByRole('button', { name: /^Pattern/ }).click()
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 1')
  await page.getByLabel('Laid out', { exact: true }).selectOption('round')
  await page.getByLabel('Result', { exact: true }).selectOption('triangles')
  await commit(page, 'How many', '14')
  await expect(line(page, 'Pattern 1')).toContainText('14', { timeout: 300_000 })
  await page.getByRole('button', { name: /^Combine/ }).click()
  await page.getByLabel('Body', { exact: true }).selectOption('Body 1')
  const others = page.getByRole('group', { name: 'Others' }).getByRole('checkbox')
  await expect(others).toHaveCount(2)
  for (const box of await others.all()) await box.check()
  await page.getByLabel('Worked by', { exact: true }).selectOption('triangles')
  await expect(line(page, 'Combine 2')).toContainText('cm³', { timeout: 300_000 })
  await expect(page.getByTestId('body')).toHaveCount(1)
  await stage(page, 'Release')
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 300_000 }),
    page.getByRole('button', { name: 'STL', exact: true }).click(),
  ])
  const mesh = readStl(readFileSync(await download.path()))
  expect(mesh.ok && measureMesh(mesh.value).closed).toBe(true)
})
