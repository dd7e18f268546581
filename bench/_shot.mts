import { launch } from '/work/main/e2e/browser.ts'
const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('pageerror', (e) => console.log('PAGEERROR', e.message))
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()))
page.setDefaultTimeout(8000)
const base = 'http://127.0.0.1:4173'
const steps = await import(process.argv[2]!)
try { await steps.default(page, base, (n: string) => page.screenshot({ path: `/tmp/shots/${n}.png` })) } catch (e) { console.log(String(e).slice(0, 600)); await page.screenshot({ path: '/tmp/shots/fail.png' }) }
await browser.close()
