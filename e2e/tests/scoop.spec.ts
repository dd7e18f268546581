import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { add, commit, drawLines, line, newWorkpiece, outline, over, stage } from './bench'

test('a scoop: turned, hollowed, a bent handle as an even wall; its charts and its drawing', async ({
  page,
}) => {
  await newWorkpiece(page)
  await stage(page, 'Draw')
  await add(page, 'p')
  await drawLines(page, ['0 0', '24 0', '32 40', '0 40'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'r')
  await expect(line(page, 'Revolve 1')).toContainText('cm³')
  await stage(page, 'Refine')
  await add(page, 's')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  const top = await over(page, 'of Revolve 1')
  await page.mouse.click(top.x, top.y)
  await commit(page, 'Wall', '2.4')
  await expect(line(page, 'Shell 1')).toContainText('wall 2.40 mm')

  await stage(page, 'Draw')
  await add(page, 'p')
  await page.getByLabel('For', { exact: true }).selectOption('open')
  await drawLines(page, ['28.8 30', '55 34', '80 60'])
  await page.keyboard.press('Escape')
  await stage(page, 'Form')
  await add(page, 'e')
  await page.getByLabel('Filled', { exact: true }).selectOption('middle')
  // Two `Wall` fields never stand at once: this is that of the handle.
  await commit(page, 'Wall', '4.5')
  await page.getByLabel('Which way', { exact: true }).selectOption('alike')
  await commit(page, 'Length', '14')
  // 62.6 mm of line, 4.5 by 14, less what lies in the wall and at the bend.
  await expect(line(page, 'Extrude 1')).toContainText(/\+3\.[789] cm³/, { timeout: 300_000 })

  // The face under the pointer tells its ops; a double click opens the last of them.
  await page.getByRole('button', { name: 'front', exact: true }).click()
  const handle = await over(page, 'of Extrude 1')
  await expect(line(page, 'Extrude 1')).toHaveAttribute('data-made', 'true')
  await line(page, 'Shell 1').getByText('Shell 1').click()
  await page.mouse.move(handle.x, handle.y)
  await page.mouse.dblclick(handle.x, handle.y)
  await expect(page.getByLabel('Name of the op')).toHaveValue('Extrude 1')

  await stage(page, 'Gauge')
  await page.getByRole('button', { name: 'Volume by level' }).click()
  await expect(page.getByTestId('chart-says')).toContainText('ml to the brim', { timeout: 300_000 })
  const chart = page.getByTestId('chart')
  await expect(chart.locator('.scatterlayer path').first()).toBeAttached()
  const box = (await chart.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.move(box.x + box.width / 2 + 3, box.y + box.height / 2)
  await expect(chart.locator('.hoverlayer text').first()).toBeAttached()
  // And back: what is pointed at on the Stage stands as a line in the chart.
  await over(page, 'of Extrude 1')
  await expect(chart.locator('.shapelayer path')).toHaveCount(1)
  const scale = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Scale, full size' }).click()
  const svg = await readFile((await (await scale).path())!, 'utf8')
  expect(svg).toContain('ml over the inside floor, full size')
  const table = page.waitForEvent('download')
  await page.getByRole('button', { name: 'CSV' }).click()
  const csv = await readFile((await (await table).path())!, 'utf8')
  expect(csv.split('\r\n').length).toBeGreaterThan(100)
  await page.getByRole('button', { name: 'Close the chart' }).click()
  await expect(page.getByRole('region', { name: 'Drafting table' })).toBeVisible()

  await stage(page, 'Release')
  const drawing = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Views, PDF' }).click()
  const pdf = await readFile((await (await drawing).path())!)
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
  await expect(page.getByTestId('released')).toContainText('three views')
})

test('one block is set onto another by picking a face of each, then repeated by gap', async ({
  page,
}) => {
  await newWorkpiece(page)
  const block = async (places: string[], height: string, result: string | null) => {
    await outline(page, places)
    await stage(page, 'Form')
    await add(page, 'e')
    if (result) await page.getByLabel('Result', { exact: true }).selectOption(result)
    await commit(page, 'Length', height)
  }
  await block(['0 0', '60 0', '60 30', '0 30'], '10', null)
  await expect(line(page, 'Extrude 1')).toContainText('+18.0 cm³')
  await block(['70 0', '78 0', '78 12', '70 12'], '6', 'new')
  await expect(line(page, 'Extrude 2')).toContainText('+576 mm³')
  await stage(page, 'Refine')
  await add(page, 'l')
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 2')
  await page.getByLabel('Onto', { exact: true }).selectOption('Body 1')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  // The op is new: it picks its own face at once.
  const own = await over(page, 'end of Extrude 2')
  await page.mouse.click(own.x, own.y)
  await page.getByRole('button', { name: 'Pick faces' }).click()
  const there = await over(page, 'end of Extrude 1')
  await page.mouse.click(there.x, there.y)
  await page.getByRole('button', { name: 'Done picking' }).click()
  await expect(line(page, 'Align 1')).toContainText('its middle by', { timeout: 300_000 })
  await expect(line(page, 'Align 1')).toContainText('turned 180 deg')
  await page.getByLabel('Across', { exact: true }).selectOption('yes')
  await expect(line(page, 'Align 1')).toContainText('its middle by 46.01 mm')

  await add(page, 't')
  await page.getByLabel('Body', { exact: true }).selectOption('Extrude 2')
  await page.getByLabel('Spaced by', { exact: true }).selectOption('gap')
  await commit(page, 'Gap', '2')
  await expect(line(page, 'Pattern 1')).toContainText('3, apart from each other, gap 2 mm', {
    timeout: 300_000,
  })
})
