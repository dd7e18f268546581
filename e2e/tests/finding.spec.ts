import { expect, test } from '@playwright/test'
import { accessible, button, commit, line, rebuilt, route, routeRow, saved, stage } from './bench'

test('begun from a small piece, an op done again, one of another workpiece taken over, found and noted', async ({
  page,
}) => {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await page.goto('/')
  await page.getByRole('button', { name: 'Start from' }).click()
  await page.getByRole('menuitem', { name: 'Turned vessel' }).click()
  await page.waitForURL(/\/brief$/)
  await rebuilt(page)

  // What an op uses and what uses it stands in the route.
  await stage(page, 'Refine')
  await routeRow(page, 'Turn it').click()
  await expect(line(page, 'Outline')).toContainText('used')
  await expect(line(page, 'Hollow out')).toContainText('uses it')
  await page.keyboard.press('Shift+D')
  await expect(routeRow(page, 'Turn it, again')).toBeVisible()
  await button(page, 'Undo').first().click()
  await expect(route(page).getByRole('listitem')).toHaveCount(4)

  // The lip of the cruet, with all it needs.
  await page.getByRole('button', { name: 'Take over ops' }).click()
  await page.getByLabel('Take from').selectOption({ label: 'Oil cruet 250 ml' })
  await page.getByRole('checkbox', { name: /Add the neck/ }).check()
  await page.getByRole('button', { name: /^Take over \d ops$/ }).click()
  await expect(routeRow(page, 'Add the neck')).toBeVisible()
  await expect(page.getByText(/ops were taken over/)).toBeVisible()
  await button(page, 'Undo').first().click()
  await expect(route(page).getByRole('listitem')).toHaveCount(4)

  // A note on an op is found by its words.
  await routeRow(page, 'Hollow out').click()
  await commit(page, 'Note on the op', 'thin enough for the kiln?')
  await expect(line(page, 'Hollow out')).toContainText('note')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('kiln')
  await page.getByRole('option', { name: /Hollow out/ }).click()
  await expect(page.getByLabel('Name of the op')).toHaveValue('Hollow out')

  // A note on a face, by the mouse; its pin stays with the face.
  await button(page, 'Note on a face or edge').click()
  const canvas = page.getByRole('region', { name: 'Stage' }).locator('canvas')
  const box = (await canvas.boundingBox())!
  await page.mouse.move(box.x + box.width / 2 - 30, box.y + box.height / 2)
  await page.mouse.click(box.x + box.width / 2 - 30, box.y + box.height / 2)
  await expect(page.getByTestId('note-pin')).toHaveCount(1)
  await commit(page, 'Note 1', 'polish this side')
  await expect(page.getByTestId('note-pin')).toHaveAttribute('title', 'polish this side')
  await accessible(page)
  await saved(page)
  await page.reload()
  await expect(page.getByTestId('note-pin')).toHaveAttribute('title', 'polish this side')

  // On the shelf: a copy of it.
  await page.goto('/')
  await page.getByRole('button', { name: 'Duplicate Turned vessel' }).click()
  await expect(page.getByRole('heading', { name: 'Turned vessel, copy' })).toBeVisible()
  await accessible(page)
})
