import { readFileSync } from 'node:fs'
import { measureMesh, readStl } from '@ivory/core/mesh'
import { expect, test } from '@playwright/test'

/** A route of turned bodies is measured without the exact kernel. */
const noKernel = () => Promise.reject(new Error('no kernel here'))

import { drawLines, newWorkpiece, reading, routeRow, saved, stage } from './bench'

test('a vessel from brief to release', async ({ page }) => {
  const errors: string[] = []
  page.on('pageerror', (e) => errors.push(e.message))
  await newWorkpiece(page)

  // Brief
  await page.getByLabel('Name of the workpiece').fill('Test flask')
  await page.getByLabel('Name of the workpiece').press('Enter')
  await page.getByLabel('Material').selectOption('petg')
  await page.getByLabel('Capacity to the brim, at least').fill('240')
  await page.getByLabel('Capacity to the brim, at least').press('Enter')
  await page.getByLabel('Wall, at least').fill('2.5')
  await page.getByLabel('Wall, at least').press('Enter')
  await expect(page.getByTestId('gauge-capacity')).toBeVisible()

  // Draw: figures, then half the outline, typed
  await stage(page, 'Draw')
  await page.getByRole('button', { name: '+ Figure' }).click()
  await page.getByLabel('Name of the figure').fill('belly')
  await page.getByLabel('Name of the figure').press('Enter')
  await page.getByLabel('Value of belly').fill('70 mm')
  await page.getByLabel('Value of belly').press('Enter')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await drawLines(page, ['0 0', '35 0', '35 60', '14 80', '0 80'])
  // Drive the belly by the figure
  await page.getByLabel('p2 from axis').fill('belly / 2')
  await page.getByLabel('p2 from axis').press('Enter')
  await page.getByLabel('p3 from axis').fill('belly / 2')
  await page.getByLabel('p3 from axis').press('Enter')
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('4 pieces, sound')

  // Form: turn, then neck and lip
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('cm³')
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await drawLines(page, ['0 75', '14 75', '14 110', '0 110'])
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  await expect(page.getByLabel('Result')).toHaveValue('join')
  await stage(page, 'Draw')
  await page.getByRole('button', { name: /^Profile/ }).click()
  await drawLines(page, ['0 104', '19 104', '19 110', '0 110'])
  await stage(page, 'Form')
  await page.getByRole('button', { name: /^Revolve/ }).click()
  await expect(page.getByLabel('Result')).toHaveValue('join')

  // Refine: fillet the foot and the lip, with the range told first
  await stage(page, 'Refine')
  await page.getByRole('button', { name: /^Fillet/ }).click()
  await page.locator('[data-testid="pick-edge"][data-name="turn1:line1|turn1:line2"]').click()
  await expect(page.getByTestId('range')).toContainText('holds up to')
  await page.getByLabel('Radius', { exact: true }).fill('4')
  await page.getByLabel('Radius', { exact: true }).press('Enter')
  await page.getByRole('button', { name: /^Fillet/ }).click()
  await page.locator('[data-testid="pick-edge"][data-name="turn3:line1|turn3:line2"]').click()
  await expect(page.getByTestId('range')).toContainText('holds up to')
  // Too large is told with the largest that holds, and taken in one click
  await page.getByLabel('Radius', { exact: true }).fill('40')
  await page.getByLabel('Radius', { exact: true }).press('Enter')
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText('Fails.')
  await page.getByRole('button', { name: 'Use the largest' }).click()
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toHaveCount(0)
  await page.getByLabel('Radius', { exact: true }).fill('1 mm')
  await page.getByLabel('Radius', { exact: true }).press('Enter')

  // Shell 3 mm, open at the top
  await page.getByRole('button', { name: /^Shell/ }).click()
  await page.getByTestId('pick-face').first().waitFor({ state: 'attached' })
  // The outline has grown beyond the view, which moves only when asked.
  await page.getByRole('button', { name: 'Fit the table' }).click()
  for (const face of await page.locator('[data-testid="pick-face"][data-name$=":line3"]').all()) {
    const name = await face.getAttribute('data-name')
    if (name === 'turn3:line3' || name === 'turn2:line3') await face.click({ force: true })
  }
  // A new shell brings its wall into what holds; here it is asked for.
  await page.getByLabel('Wall', { exact: true }).fill('3 mm')
  await page.getByLabel('Wall', { exact: true }).press('Enter')
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText(/wall (2|3)\.\d/)
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
  const first = await reading(page, 'capacity')
  expect(first).toBeGreaterThan(100)

  // Change a figure, undo, redo
  await page.getByLabel('Value of belly').fill('74 mm')
  await page.getByLabel('Value of belly').press('Enter')
  await expect.poll(() => reading(page, 'capacity')).toBeGreaterThan(first + 5)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => reading(page, 'capacity')).toBeCloseTo(first, 1)
  await page.getByRole('button', { name: 'Redo' }).click()

  // Solve for 250 ml
  await stage(page, 'Gauge')
  await page.getByLabel('Target reading').fill('250')
  await page.getByRole('button', { name: 'Find it' }).click()
  await page.getByRole('button', { name: 'Apply' }).first().click()
  await expect.poll(() => reading(page, 'capacity')).toBeCloseTo(250, 1)
  await expect(page.getByRole('region', { name: 'Gauges', exact: true })).toContainText('holds')

  // Release
  await stage(page, 'Release')
  const [stl] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'STL', exact: true }).click(),
  ])
  expect(stl.suggestedFilename()).toBe('test-flask.stl')
  await expect(page.getByTestId('released')).toContainText('read again: ')
  const mesh = readStl(new Uint8Array(readFileSync(await stl.path())))
  if (!mesh.ok) throw new Error(mesh.diagnosis.message)
  const m = measureMesh(mesh.value)
  expect(m.closed).toBe(true)
  const [json] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Workpiece' }).click(),
  ])
  const { measureWorkpiece } = await import('@ivory/core/release')
  const doc = JSON.parse(readFileSync(await json.path(), 'utf8'))
  const exact = (await measureWorkpiece(doc, noKernel)).report.bodies[0]!
  // A facet within 0.05 mm of the surface takes at most area x 0.05 from the volume.
  expect(Math.abs(m.volume - exact.volume_mm3)).toBeLessThan(exact.area_mm2 * 0.05)
  const [step] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'STEP' }).click(),
  ])
  expect(readFileSync(await step.path(), 'utf8').slice(0, 13)).toBe('ISO-10303-21;')
  await expect(page.getByTestId('released')).toContainText('closed and valid')

  // Reload keeps all
  await saved(page)
  const before = await reading(page, 'capacity')
  await page.reload()
  await expect(page.getByTestId('gauge-capacity')).toHaveText(/ml/)
  expect(await reading(page, 'capacity')).toBeCloseTo(before, 1)
  await expect(routeRow(page, 'Shell 1')).toBeVisible()
  expect(errors).toEqual([])
})
