// Takes the pictures of docs/screenshots from the demo set. Needs the app running: ADDRESS, OUT.
import { launch } from './browser'

const address = process.env.ADDRESS ?? 'http://127.0.0.1:4173'
const out = process.env.OUT ?? 'docs/screenshots'
const only = process.argv[2]
const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()))
page.on('pageerror', (e) => console.log('page error:', e.message))
const shot = async (name: string) => {
  if (only && !name.includes(only)) return
  await page.waitForTimeout(700)
  await page.screenshot({ path: `${out}/${name}.png` })
}
const row = (name: string) =>
  page.getByRole('navigation', { name: 'Route' }).getByText(name, { exact: true }).click()

const commit = async (label: string, text: string) => {
  await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByLabel(label, { exact: true }).press('Enter')
}

/** A proof kept, the belly changed, and both compared on the Stage and side by side. */
async function proofShot() {
  await page.getByRole('button', { name: /^Proofs/ }).click()
  await page.getByLabel('Name of the proof').fill('As first meant')
  await page.getByRole('button', { name: 'Keep as it is' }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).waitFor()
  await page.keyboard.press('9')
  await commit('Value of belly', '88 mm')
  await page.waitForTimeout(1000)
  await page.getByRole('button', { name: /^Proofs/ }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  await page.getByRole('button', { name: 'seen through' }).click()
  await page.getByTestId('proof-section').first().waitFor()
  await page.getByRole('button', { name: 'Fit the table' }).click()
  await shot('proofs')
  await page.keyboard.press('9')
}

/** A conflict, a row of ribs, the figures and a picture to trace, each taken back afterwards. */
async function draftingShots() {
  const undo = async (times: number) => {
    for (let i = 0; i < times; i++) await page.getByRole('button', { name: 'Undo' }).click()
    await page.waitForTimeout(500)
  }
  await proofShot()
  await undo(1)
  await row('Neck outline')
  await page.getByRole('button', { name: 'Fit the table' }).click()
  await page.getByRole('button', { name: 'side', exact: true }).click()
  await page.getByRole('button', { name: /^Distance 3/ }).click()
  await page.waitForTimeout(500)
  await commit('Value of neck_length', '38 mm')
  await page.waitForTimeout(1000)
  await page.getByTestId('freedom').scrollIntoViewIfNeeded()
  await shot('drafting-conflict')
  await undo(2)
}

await page.goto(address)
await page.waitForURL(/\/w\//)
await page.getByTestId('gauge-capacity').waitFor()
await page.waitForTimeout(2500)
await row('Body outline')
await page.getByRole('button', { name: 'Fit the table' }).click()
await page.getByRole('button', { name: 'side', exact: true }).click()
await page.getByRole('button', { name: 'Curvature comb of the chosen curve' }).click()
await page.getByRole('button', { name: /^Release Full width .*\(c\)/ }).click()
await shot('drafting-table')
await page.getByRole('button', { name: 'Undo' }).click()
await page.getByRole('button', { name: 'Curvature comb of the chosen curve' }).click()
const base = page.url().replace(/(\/w\/[^/]+).*/, '$1')
await draftingShots()
await page.goto(`${base}/refine`)
await page.getByTestId('gauge-capacity').waitFor()
await row('Hollow out')
await page.getByTestId('range').waitFor()
await shot('working-range')
await page.goto(`${base}/gauge`)
await page.getByTestId('gauge-capacity').waitFor()
await page.getByLabel('Target reading').fill('250')
await page.getByRole('button', { name: 'Find it' }).click()
await page.getByRole('button', { name: 'Apply' }).first().waitFor()
await page.getByRole('button', { name: 'Find it' }).scrollIntoViewIfNeeded()
await shot('gauges')
await page.getByRole('button', { name: 'Volume by level' }).click()
const chart = page.getByTestId('chart')
await chart.locator('.scatterlayer path').first().waitFor()
const chartBox = (await chart.boundingBox())!
for (const x of [0.5, 0.51])
  await page.mouse.move(chartBox.x + chartBox.width * x, chartBox.y + chartBox.height / 2)
await shot('charts')
await page.getByRole('button', { name: 'Close the chart' }).click()
await page.goto(`${base}/brief`)
await page.getByTestId('gauge-capacity').waitFor()
await shot('brief')
await page.goto(`${base}/release`)
await page.getByTestId('gauge-capacity').waitFor()
await shot('release')
await page.goto(`${address}/settings`)
await page.getByLabel('Paper').selectOption('dark')
await page.getByLabel('Beside millimetres').selectOption('fractions')
await shot('settings')
await page.getByLabel('Paper').selectOption('light')
await page.getByLabel('Beside millimetres').selectOption('none')
await page.goto(address)
await page.getByText('Egg cup').waitFor()
// Pictures of pieces that were never opened are made in the background.
if (!only || 'shelf'.includes(only))
  await page.locator('main ul > li img').nth(19).waitFor({ timeout: 400_000 })
await shot('shelf')

/** A piece of the demo set once the exact kernel has made it, at one of its ops. */
async function exactShot(name: string, op: string, picture: string, look = async () => {}) {
  if (only && !picture.includes(only)) return
  await page.goto(address)
  await page.getByText(name).click()
  await page.waitForURL(/\/w\//)
  await page.goto(`${page.url().replace(/(\/w\/[^/]+).*/, '$1')}/refine`)
  await page.getByTestId('gauge-mass').filter({ hasText: 'g' }).waitFor({ timeout: 60_000 })
  await row(op)
  await page
    .getByTestId('gauge-mass')
    .filter({ hasText: /^[\d.]+ g$/ })
    .waitFor({ timeout: 90_000 })
  await page.waitForTimeout(1500)
  await page.getByRole('button', { name: 'Fit to view' }).click()
  await look()
  await shot(picture)
}
const stageOf = (name: string) =>
  page.getByRole('navigation', { name: 'Stages of the job' }).getByRole('link', { name }).click()
await exactShot('Serving board', 'Board', 'loft-rails', async () => {
  await stageOf('Form')
  await page.keyboard.press('h')
  await page.getByTestId('section-of-loft').first().waitFor()
})
await exactShot('Probe plug and lead', 'Lead', 'stripes', async () => {
  await page.keyboard.press('h')
  await page.keyboard.press('e')
  await page.waitForTimeout(700)
})
await exactShot('Batter scoop', 'Join it to the bowl', 'curvature', async () => {
  await page.keyboard.press('h')
  await page.keyboard.press('u')
  await page.getByLabel('What is shown').selectOption('mean')
  await page.getByRole('spinbutton', { name: 'radius' }).fill('8')
  await page.waitForTimeout(700)
})
await exactShot('Trivet wire', 'Wire', 'path-drawn', async () => {
  await stageOf('Draw')
  await page.getByRole('button', { name: /^Path/ }).click()
  await commit('Place 1 z', '40')
  await commit('Place 2 x', '30')
  await page.getByRole('button', { name: 'Draw on the Stage' }).click()
  const stage = (await page.getByRole('region', { name: 'Stage' }).locator('canvas').boundingBox())!
  await page.mouse.move(stage.x + stage.width * 0.62, stage.y + stage.height * 0.3)
  await page.waitForTimeout(700)
})
await exactShot('Dimpled mill grip', 'Dimples on the outside', 'wall-map', async () => {
  await page.goto(page.url().replace('/refine', '/gauge'))
  await page.getByTestId('gauge-wall').filter({ hasText: 'mm' }).waitFor({ timeout: 60_000 })
  await page.getByLabel('at least').last().fill('5')
  await page.keyboard.press('Enter')
  await page.getByLabel('Plane of the cut').selectOption('side')
  await page.getByRole('button', { name: 'Wall all over' }).click()
  await page.getByTestId('wall-legend').filter({ hasText: 'to' }).waitFor({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Fit the table' }).click()
  await page.waitForTimeout(2500)
})
await exactShot('Utensil crock', 'Crock', 'cage', async () => {
  await page.getByRole('button', { name: /^Rows 7 rows/ }).click()
})
await exactShot('Utensil crock', 'Room inside', 'cavity', async () => {
  await page.getByRole('button', { name: 'Wall all over' }).click()
  await page.getByTestId('wall-legend').filter({ hasText: 'to' }).waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Fit the table' }).click()
  await page.waitForTimeout(2500)
})
await exactShot('Lid clip foot', 'Foot', 'foot', async () => {
  await page.keyboard.press('h')
  await page
    .getByRole('button', { name: /^Lay on/ })
    .last()
    .click()
  await page.getByRole('button', { name: 'none', exact: true }).click()
  await page.getByRole('button', { name: 'Fit the table' }).click()
  await page.waitForTimeout(1500)
})
await exactShot('Kettle shoulder', 'Shoulder', 'evenness', async () => {
  for (const k of [7, 8, 9])
    await page.getByRole('button', { name: `Leave edit ${k} out`, exact: true }).click()
  await page.getByText('Even bending', { exact: true }).click()
  await page.getByTestId('cage-cures').getByText('rub it out').waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Find cause 1' }).click()
  await page.waitForTimeout(2500)
})
await browser.close()
