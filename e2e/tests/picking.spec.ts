import { expect, type Page, test } from '@playwright/test'
import { accessible, add, line, newWorkpiece, over, picks, stage } from './bench'

const canvasOf = (page: Page) => page.getByRole('region', { name: 'Stage' }).locator('canvas')

/** Draws with the mouse pressed through places. */
async function draw(page: Page, places: readonly { x: number; y: number }[]): Promise<void> {
  await page.mouse.move(places[0]!.x, places[0]!.y)
  await page.mouse.down()
  for (const { x, y } of places.slice(1)) await page.mouse.move(x, y, { steps: 4 })
  await expect(page.getByTestId('cage-loop')).toBeVisible()
  await page.mouse.up()
  await expect(page.getByTestId('cage-loop')).toHaveCount(0)
}

test('points and faces of a cage are picked in a frame, in a loop, by a brush; by keys; the view stays', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Form')
  await add(page, 'g')
  await expect(line(page, 'Cage 1')).toContainText('32 faces', { timeout: 300_000 })
  const box = (await canvasOf(page).boundingBox())!
  const before = await over(page, /point 2\.\d/)
  const point = (await page.getByTestId('hover').textContent())!.replace('point ', '')

  // A frame about everything: what turns towards the eye; behind too, all 5 rows of 8.
  await page.keyboard.press('d')
  await page.keyboard.press('7')
  const frame = [
    { x: box.x + 5, y: box.y + 5 },
    { x: box.x + box.width - 70, y: box.y + box.height - 4 },
  ]
  await draw(page, frame)
  const front = Number(/\d+/.exec((await picks(page).textContent())!)![0])
  expect(front).toBeGreaterThan(12)
  expect(front).toBeLessThan(32)
  await page.getByLabel('behind too').check()
  await draw(page, frame)
  await expect(picks(page)).toHaveText('40 points')
  // All of them once more: let go.
  await draw(page, frame)
  await expect(picks(page)).toHaveText('Draw a frame about points.')
  await page.getByLabel('behind too').uncheck()

  // A loop about one point, which is still where it was: nothing turned the view.
  await page.keyboard.press('d')
  await page.keyboard.press('8')
  const [r, n] = [16, 10]
  await draw(
    page,
    Array.from({ length: n + 1 }, (_, i) => ({
      x: before.x + r * Math.cos((2 * Math.PI * i) / n),
      y: before.y + r * Math.sin((2 * Math.PI * i) / n),
    })),
  )
  await expect(picks(page)).toHaveText(point)
  await page.getByRole('button', { name: 'more', exact: true }).click()
  await expect(picks(page)).toHaveText('5 points')
  await accessible(page)

  // A brush over faces, from one to the next.
  await page.keyboard.press('d')
  await page.keyboard.press('3')
  await page.keyboard.press('d')
  await page.keyboard.press('9')
  await page.mouse.move(box.x + box.width / 2 - 40, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2, { steps: 20 })
  await page.mouse.up()
  await expect(picks(page)).toContainText(/f\d\.\d, f\d\.\d|\d faces/)

  // And out with them, by its letter.
  await page.keyboard.press('d')
  await page.keyboard.press('c')
  await expect(page.getByTestId('cage-edit-e1')).toContainText('Carry out')
  await expect(line(page, 'Cage 1')).not.toContainText(/^\D*32 faces/, { timeout: 300_000 })
})

test('the outline of the rings of a cage is dragged on the Table: rows follow, in one edit, undone as one', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Form')
  await add(page, 'g')
  const cage = line(page, 'Cage 1')
  await expect(cage).toContainText('32 faces', { timeout: 300_000 })
  const volume = (text: string | null) => Number(/\+([\d.]+) cm³/.exec(text ?? '')?.[1])
  const before = volume(await cage.textContent())
  const drag = async (ring: string, dx: number, dy: number) => {
    const at = (await page.getByTestId(`ring-${ring}`).boundingBox())!
    const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 })
    await page.mouse.move(x + dx, y + dy, { steps: 4 })
    await page.mouse.up()
    // It stands where it was let go: the view did not move.
    await expect(async () => {
      const now = (await page.getByTestId(`ring-${ring}`).boundingBox())!
      expect(Math.hypot(now.x - at.x - dx, now.y - at.y - dy)).toBeLessThan(2)
    }).toPass()
  }
  await drag('2', 36, 0)
  await expect(page.getByTestId('cage-edit-e1')).toContainText('1 row')
  const size = Number(await page.getByLabel('Row 2 size').inputValue())
  expect(size).toBeGreaterThan(1.1)
  await drag('4', -30, -20)
  await expect(page.getByTestId('cage-edit-e1')).toContainText('2 rows')
  await expect(page.getByTestId('cage-edit-e2')).toHaveCount(0)
  expect(Number(await page.getByLabel('Row 4 lift').inputValue())).toBeGreaterThan(2)
  await expect(async () => {
    const now = volume(await cage.textContent())
    expect(now).toBeGreaterThan(0)
    expect(Math.abs(now / before - 1)).toBeGreaterThan(0.02)
  }).toPass({ timeout: 300_000 })
  await accessible(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('cage-edit-e1')).toContainText('1 row')
})
