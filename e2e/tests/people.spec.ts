import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { expect, type Page, test } from '@playwright/test'
import { PDFDocument } from 'pdf-lib'
import { accessible, choose, commit, openDemo, rebuilt, stage } from './bench'

/** The file that a button hands over. */
async function made(page: Page, name: string): Promise<Buffer> {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('region', { name: 'For people' })
      .getByRole('button', { name, exact: true })
      .click(),
  ])
  return readFileSync(await file.path())
}

test('report, page, picture, turn and a print in real size leave for people', async ({
  page,
  context,
}) => {
  await openDemo(page)
  await rebuilt(page)
  await stage(page, 'Release')
  const report = await PDFDocument.load(await made(page, 'Report'))
  expect(report.getTitle()).toContain('Oil cruet')
  expect(report.getPageCount()).toBeGreaterThan(1)

  await choose(page, 'View of the picture', 'front')
  await page.getByLabel('no ground').check()
  const png = await made(page, 'Picture')
  expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([1280, 800])
  // Colour type 6: red, green, blue and how clear (PNG, ISO/IEC 15948).
  expect(png[25]).toBe(6)
  const gif = await made(page, 'Turn')
  expect(gif.subarray(0, 6).toString('latin1')).toBe('GIF89a')
  // A graphic control block before each of its pictures (GIF89a, section 23).
  expect(gif.toString('latin1').split('\x21\xf9\x04').length - 1).toBe(36)

  // The cruet is 126 mm high: on A4 at twice its size it takes two sheets.
  const print = await PDFDocument.load(await made(page, 'Print'))
  expect(print.getPageCount()).toBe(1)
  await commit(page, 'Scale of the print', '2,5')
  expect((await PDFDocument.load(await made(page, 'Print'))).getPageCount()).toBeGreaterThan(1)
  await choose(page, 'What is printed', { label: 'Lip outline' })
  await made(page, 'Print')
  await expect(page.getByTestId('for-people')).toContainText(/mm on 1 sheet of A4; measure the bar/)
  await accessible(page)

  // The page, in a browser that reaches nothing else: drawn, turned, and read.
  const file = path.join(mkdtempSync(path.join(os.tmpdir(), 'page-')), 'cruet.html')
  writeFileSync(file, await made(page, 'Page'))
  const other = await context.newPage()
  const asked: string[] = []
  other.on('request', (r) => asked.push(r.url()))
  await other.goto(`file://${file}`)
  await expect(other.getByRole('heading', { name: /Oil cruet/ })).toBeVisible()
  await expect(other.getByText('248.5 ml')).toBeVisible()
  const canvas = other.locator('canvas')
  const before = await canvas.screenshot()
  const box = (await canvas.boundingBox())!
  await other.mouse.move(box.x + 200, box.y + 200)
  await other.mouse.down()
  await other.mouse.move(box.x + 320, box.y + 240, { steps: 4 })
  await other.mouse.up()
  expect((await canvas.screenshot()).equals(before)).toBe(false)
  await accessible(other)
  expect(asked.filter((u) => !u.startsWith('file:'))).toEqual([])
})
