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

await page.goto(address)
await page.waitForURL(/\/w\//)
await page.getByTestId('gauge-capacity').waitFor()
await page.waitForTimeout(2500)
await row('Body outline')
await page.getByRole('button', { name: 'side', exact: true }).click()
await shot('drafting-table')
const base = page.url().replace(/(\/w\/[^/]+).*/, '$1')
await page.goto(`${base}/form`)
await page.getByTestId('gauge-capacity').waitFor()
await page.keyboard.press('l')
await shot('stage-cutaway')
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
await page.keyboard.press('Control+k')
await shot('command-palette')
await page.keyboard.press('Escape')
await page.goto(`${base}/brief`)
await page.getByTestId('gauge-capacity').waitFor()
await shot('brief')
await page.goto(`${base}/release`)
await page.getByTestId('gauge-capacity').waitFor()
await shot('release')
await page.waitForTimeout(2500)
await page.goto(address)
await page.getByText('Egg cup').waitFor()
for (const name of ['Egg cup', 'Pepper-mill top', 'Mixing bowl with rolled lip']) {
  await page.getByRole('heading', { name }).click()
  await page.getByTestId('gauge-width').waitFor()
  await page.waitForTimeout(5500)
  await page.goto(address)
}
await shot('shelf')
await browser.close()
