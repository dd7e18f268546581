import { expect, test } from '@playwright/test'
import {
  add,
  button,
  choose,
  click,
  commit,
  line,
  newWorkpiece,
  outline,
  over,
  pathThrough,
  picks,
  stage,
} from './bench'

test('a cage begun from a drawing: flat, thickened by a click; carried up, its edges cut off, its rim put onto a path', async ({
  page,
}) => {
  test.slow()
  const pick = async (what: string, name: RegExp) => {
    await button(page, what).click()
    await click(page, name)
  }
  const cage = line(page, 'Cage 1')
  await newWorkpiece(page)
  await outline(page, ['-30 -20', '30 -20', '30 20', '-30 20'])
  await pathThrough(page, ['-40 0 70', '0 30 70', '45 5 75', '10 -35 70'])
  await stage(page, 'Form')
  await add(page, 'g')

  // The drawing is taken by itself; flat it encloses nothing, and the cure is one click.
  await choose(page, 'Begins as', { label: 'an area, flat' })
  await expect(cage).toContainText('It is flat and encloses nothing yet', { timeout: 300_000 })
  await button(page, 'Thicken it by 2.5 mm').click()
  await expect(cage).toContainText('+6.0 cm³', { timeout: 300_000 })
  await page.keyboard.press('Control+z')

  await choose(page, 'Begins as', { label: 'an area, carried up' })
  await expect(cage).toContainText('6 on the body, exact; +144.0 cm³', { timeout: 300_000 })

  // One edge alone is not cut off. The cage stays seen where it was, so that more can be picked at once.
  await pick('edges', /edge .+/)
  const at = await over(page, /edge .+/)
  const called = (await page.getByTestId('hover').textContent())!
  await page.keyboard.press('d')
  await page.keyboard.press('v')
  await expect(cage).toContainText('One edge alone is not cut off', { timeout: 300_000 })
  await page.mouse.move(at.x + 60, at.y + 200)
  await page.mouse.move(at.x, at.y)
  await expect(page.getByTestId('hover')).toHaveText(called)
  await button(page, 'Take edit 1 away').click()
  await button(page, 'more').click()
  await expect(picks(page)).toHaveText(/^\d+ edges$/)
  await page.keyboard.press('d')
  await page.keyboard.press('v')
  await commit(page, 'Edit by', '2')
  await expect(page.getByTestId('cage-edit-e1')).toContainText('Cut off')
  await expect(cage).toContainText(/(5[1-9]|[6-9]\d) faces; .* cm³/, { timeout: 300_000 })
  await button(page, 'Finer').click()
  await expect(cage).toContainText(/2\d\d faces; .* cm³/, { timeout: 300_000 })
  await button(page, 'Take edit 2 away').click()
  await button(page, 'Take edit 1 away').click()

  // The upper row onto the path: each point where that is nearest; all evenly along it only where both close.
  await pick('rows', /row 4/)
  await button(page, 'Onto a path').click()
  await expect(cage).toContainText(/on the body, within .* cm³/, { timeout: 300_000 })
  await choose(page, 'Edit points', { label: 'evenly along' })
  await expect(cage).toContainText('goes onto a path that closes', { timeout: 300_000 })
  await choose(page, 'Edit points', { label: 'to the nearest' })
  await expect(cage).toContainText(/on the body, within .* cm³/, { timeout: 300_000 })
})
