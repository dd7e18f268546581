import { expect, type Page, test } from '@playwright/test'
import {
  add,
  click,
  commit,
  drawLines,
  line,
  newWorkpiece,
  outline,
  routeRow,
  stage,
  welcomed,
} from './bench'

const canvasOf = (page: Page) => page.getByRole('region', { name: 'Stage' }).locator('canvas')

/** Tips the view by dragging on the ground beside the piece: half a turn is half the height of the Stage. */
async function tip(page: Page, over: number): Promise<void> {
  const box = (await canvasOf(page).boundingBox())!
  const [x, y] = [box.x + box.width * 0.06, box.y + box.height * 0.5]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x, y + over * box.height, { steps: 8 })
  await page.mouse.up()
}

/** Walks the mouse a way from a place until what is under it is called so; gives the place. */
async function walk(
  page: Page,
  from: { x: number; y: number },
  [dx, dy]: [number, number],
  text: RegExp,
): Promise<{ x: number; y: number }> {
  let at = from
  await expect(async () => {
    for (let k = 0; k < 150; k++) {
      at = { x: from.x + 3 * k * dx, y: from.y + 3 * k * dy }
      await page.mouse.move(at.x, at.y)
      const says = async () => text.test((await page.getByTestId('hover').textContent()) ?? '')
      if (!(await says())) continue
      // What is said may still be of the place before.
      await page.waitForTimeout(100)
      if (await says()) return
    }
    throw new Error(`nothing is called ${text}`)
  }).toPass({ timeout: 300_000 })
  return at
}

test('a clip: drafted, corners and rim rounded, hollowed, bosses done again; its mass and clearance', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await page.getByLabel('Material', { exact: true }).selectOption({ index: 1 })
  await outline(page, ['-36 -15', '36 -15', '36 15', '-36 15'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '16')
  await commit(page, 'Draft', '3 deg')
  await expect(line(page, 'Extrude 1')).toContainText('+33.2 cm³')

  // Two upright edges, seen from the right.
  await stage(page, 'Refine')
  await add(page, 'f')
  await page.getByRole('button', { name: 'right', exact: true }).click()
  await click(page, /edge.*line1.*line2/)
  await click(page, /edge.*line2.*line3/)
  await page.getByRole('button', { name: 'Done picking' }).click()
  await commit(page, 'Radius', '6')
  await expect(line(page, 'Fillet 1')).toContainText('mm³')

  // The rim, all round the end.
  await add(page, 'f')
  await page.getByRole('button', { name: 'Done picking' }).click()
  await page.getByRole('button', { name: 'Pick faces' }).click()
  await page.getByRole('button', { name: 'top', exact: true }).click()
  await click(page, 'end of Extrude 1')
  await page.getByRole('button', { name: 'Done picking' }).click()
  await commit(page, 'Radius', '3')
  await expect(line(page, 'Fillet 2')).toContainText('mm³')

  // Hollowed from below: the view is turned over.
  await add(page, 's')
  await page.getByRole('button', { name: 'front', exact: true }).click()
  await tip(page, -0.24)
  await click(page, 'start of Extrude 1')
  await page.getByRole('button', { name: 'Done picking' }).click()
  await commit(page, 'Wall', '2')
  await expect(line(page, 'Shell 1')).toContainText('wall 2.00 mm', { timeout: 300_000 })

  // A boss, and the same op done again in a row.
  await outline(page, ['-21 -3', '-15 -3', '-15 3', '-21 3'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('join')
  await commit(page, 'Starting at', '4')
  await commit(page, 'Length', '11')
  // 36 mm2 from 4 up to the inside of the plate at 14: the rest lies in it.
  await expect(line(page, 'Extrude 2')).toContainText('+360 mm³', { timeout: 300_000 })
  await stage(page, 'Refine')
  await add(page, 't')
  await page.getByLabel('Of', { exact: true }).selectOption('ops')
  await page.getByLabel('Extrude 2', { exact: true }).check()
  await commit(page, 'Pitch', '18')
  await expect(line(page, 'Pattern 1')).toContainText('3 times, +720 mm³', { timeout: 300_000 })

  await stage(page, 'Gauge')
  await page.getByRole('button', { name: '+ Mass' }).click()
  await expect(page.getByTestId('gauge-mass')).toContainText(/\d g/)

  // A rod that is only content stands between two bosses, 3 clear of each: 18 - 6 less its 6.
  await outline(page, ['-12 -3', '-6 -3', '-6 3', '-12 3'])
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Result', { exact: true }).selectOption('new')
  await commit(page, 'Length', '10')
  await expect(page.getByTestId('body')).toHaveCount(2)
  await page
    .getByTestId('body')
    .nth(1)
    .getByRole('button', { name: /is shown and used/ })
    .click()
  await page.getByLabel(/^Content: what the piece will hold/).check()
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('gauge-clearance')).toHaveText('3.00 mm', { timeout: 300_000 })
  await stage(page, 'Release')
  await page.getByRole('button', { name: 'STL', exact: true }).click()
  await expect(page.getByTestId('released')).toContainText(/closed/, { timeout: 300_000 })
})

test('corners and edges are measured by the mouse, and a datum point set on a corner', async ({
  page,
}) => {
  await newWorkpiece(page)
  await outline(page, ['0 0', '60 0', '60 30', '0 30'])
  await stage(page, 'Form')
  await add(page, 'e')
  await commit(page, 'Length', '20')
  await expect(line(page, 'Extrude 1')).toContainText('+36.0 cm³')
  await stage(page, 'Gauge')
  await page.getByRole('button', { name: 'Cut away half' }).click()
  await page.getByRole('button', { name: '+ Between two places' }).click()
  await page.getByRole('button', { name: 'front', exact: true }).click()
  const box = (await canvasOf(page).boundingBox())!
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  const low = await walk(page, middle, [0, 1], /edge between.*start/)
  await page.mouse.click(low.x, low.y)
  await expect(page.getByText('Click the second face, edge or corner')).toBeVisible()
  const high = await walk(page, middle, [0, -1], /edge between.*end/)
  await page.mouse.click(high.x, high.y)
  await expect(page.getByTestId('gauge-between')).toHaveText('20.000 mm')
  // From the lower left corner to the upper right one: across the front face.
  await page.getByRole('button', { name: 'Pick again' }).click()
  const left = await walk(page, low, [-1, 0], /corner of.*start/)
  await page.mouse.click(left.x, left.y)
  const right = await walk(page, high, [1, 0], /corner of.*end/)
  await page.mouse.click(right.x, right.y)
  await expect(page.getByTestId('gauge-between')).toHaveText(`${Math.hypot(60, 20).toFixed(3)} mm`)

  await stage(page, 'Draw')
  await add(page, 'o')
  await page.getByLabel('Set', { exact: true }).selectOption('vertex')
  await page.getByRole('button', { name: 'Pick a corner' }).click()
  // Seen from above the corner at 60, 0 lies to the lower right, twice as far across as down.
  await page.getByRole('button', { name: 'top', exact: true }).click()
  const there = (await canvasOf(page).boundingBox())!
  const centre = { x: there.x + there.width / 2, y: there.y + there.height / 2 }
  const corner = await walk(page, centre, [1, 0.5], /corner of.*end/)
  await page.mouse.click(corner.x, corner.y)
  await page.getByRole('button', { name: 'Done picking' }).click()
  await expect(line(page, 'Datum point 1')).toContainText('at 60 mm, 0 mm, 20 mm')
  await page.getByText('Extrude 1', { exact: true }).first().click()
  await commit(page, 'Length', '25')
  await expect(line(page, 'Datum point 1')).toContainText('at 60 mm, 0 mm, 25 mm')

  // Its section is drawn in, and the walls of the cut are dimensioned.
  await stage(page, 'Gauge')
  await page.getByRole('button', { name: 'Wall sizes' }).click()
  await page.getByLabel('Plane of the cut').selectOption('top')
  await commit(page, 'Distance of the cut', '5')
  await expect(page.getByTestId('wall-dims')).toContainText('30.00')
})

test('a curved grip is dimpled all over its outside from a field before it, whole ones only', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'p')
  await drawLines(page, ['30 0', '36 0', '36 40', '30 40', '30 0'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'r')
  await commit(page, 'Turn', '70 deg')
  await commit(page, 'Starting at', '-35 deg')
  // Pappus: 6 x 40 at a mean radius of 33, by 70 degrees.
  await expect(line(page, 'Revolve 1')).toContainText('+9.7 cm³')
  await stage(page, 'Draw')
  await add(page, 'd')
  await page.getByLabel('From', { exact: true }).selectOption('side')
  await commit(page, 'Distance', '42')
  await stage(page, 'Refine')
  await add(page, 'i')
  await page.getByRole('button', { name: 'right', exact: true }).click()
  await click(page, /line2 of Revolve 1/)
  await page.getByRole('button', { name: 'Done picking' }).click()
  await page.getByLabel('Field', { exact: true }).selectOption({ label: 'Datum plane 1' })
  await commit(page, 'Pitch', '9')
  await commit(page, 'Across', '6.5')
  await commit(page, 'Depth', '2')
  await commit(page, 'Clear by', '1.5')
  await commit(page, 'Rims', '0.8')
  // The ball of (3.25² + 2²) / 2 · 2 across; rows of whole ones clear of the edge.
  await expect(line(page, 'Dimples 1')).toContainText('of ball 7.28', { timeout: 300_000 })
  await page.getByLabel('Which way', { exact: true }).selectOption('out')
  await expect(line(page, 'Dimples 1')).toContainText(/of ball 7.28.*\+/, { timeout: 300_000 })
})

test('a file by hand with no more than its ops must have: each is looked at, and the page stands', async ({
  page,
}) => {
  const faults: string[] = []
  page.on('pageerror', (e) => faults.push(e.message))
  const path = (id: string, places: number[][]) => ({
    kind: 'path',
    name: id,
    id,
    inputs: { stops: places.map(([x, y, z]) => ({ x, y, z })) },
  })
  const ops = [
    {
      kind: 'plane',
      name: 'Level',
      id: 'level',
      inputs: { how: 'offset', from: 'top', offset: 20 },
    },
    {
      kind: 'axis',
      name: 'Upright',
      id: 'up',
      inputs: { how: 'planes', from: 'front', to: 'side' },
    },
    { kind: 'point', name: 'Spot', id: 'spot', inputs: { how: 'place', p1: { x: 1, y: 2, z: 3 } } },
    path('left', [
      [0, 0, 0],
      [-12, 20, 0],
      [0, 45, 0],
    ]),
    path('crown', [
      [0, 0, 0],
      [0, 20, 8],
      [0, 45, 0],
    ]),
    path('right', [
      [0, 0, 0],
      [12, 20, 0],
      [0, 45, 0],
    ]),
    {
      kind: 'loft',
      name: 'Skin',
      id: 'skin',
      inputs: { sections: ['left', 'crown', 'right'].map((p) => ({ path: p })), mode: 'sheet' },
    },
    {
      kind: 'thicken',
      name: 'Roof',
      id: 'roof',
      inputs: { sheet: 'skin', along: 'top', mode: 'new' },
    },
    { kind: 'sweep', name: 'Wire', id: 'wire', inputs: { path: 'crown', mode: 'new' } },
    { kind: 'text', name: 'Mark', id: 'mark', inputs: { plane: 'top' } },
    { kind: 'profile', name: 'Nothing', id: 'nothing', inputs: { plane: 'top' } },
    { kind: 'pattern', name: 'Row', id: 'row', inputs: {} },
    { kind: 'cover', name: 'Lid', id: 'lid', inputs: { body: 'wire' } },
    { kind: 'gizmo', name: 'Gizmo', id: 'gizmo', inputs: {} },
    // What no program would write: numbers and words where lists are meant.
    ...['profile', 'path', 'sweep', 'loft', 'extrude', 'fillet', 'pattern', 'combine', 'cage'].map(
      (kind) => ({
        kind,
        name: `Odd ${kind}`,
        id: `odd-${kind}`,
        inputs: {
          drawing: 5,
          stops: 'x',
          holds: 3,
          sections: 7,
          rails: 'no',
          stations: 'q',
          areas: 1,
          edges: 2,
          faces: { a: 1 },
          profile: 4,
          mode: 9,
          tools: 6,
          start: 8,
          edits: [5, { id: 'a', kind: 'gizmo', on: 3 }, { id: 'b', kind: 'rows', rows: 4 }],
        },
      }),
    ),
  ]
  const route = ops.map((o, i) => ({ ...o, number: 10 * (i + 1) }))
  const file = { format: 'ivory-lathe', version: 1, id: 'bare', name: 'Bare roof', route }
  await welcomed(page)
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles({
    name: 'bare.lathe.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  })
  await page.waitForURL(/\/w\//)
  // In the brief an op has no sheet: its row leads to its stage.
  await stage(page, 'Brief')
  for (const o of ops) {
    await routeRow(page, o.name).click()
    const sheet = page.getByLabel('Name of the op')
    await expect(
      o.kind === 'gizmo' ? page.getByText(/no op of the kind/).last() : sheet,
    ).toBeVisible()
  }
  // Straight walls: what is seen from above, times 2: two triangles of 12 x 45.
  await expect(line(page, 'Roof')).toContainText('+1.1 cm³')
  expect(faults).toEqual([])
})
