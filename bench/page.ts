// Times of the real page in headless Chromium: cold load to the first body, and frames while a point
// is dragged. Printed as ratios to the budgets of the design.

import { fileURLToPath } from 'node:url'
import { createApp } from '@ivory/server'
import { launch } from '../e2e/browser'

/** Cold load to the bench and to its first body (ms), and the median time between shown drag steps (ms). */
export async function measurePage(): Promise<{ usable: number; cold: number; drag: number }> {
  const page = fileURLToPath(new URL('../web/dist', import.meta.url))
  const app = createApp({
    page,
    measure: () => Promise.reject(new Error('not asked here')),
    sizeLimit: 1e6,
  })
  const server = app.listen(0, '127.0.0.1')
  await new Promise((r) => server.once('listening', r))
  const address = server.address()
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`
  // Pages are painted by Chromium itself, not by an emulated GPU, whose pace would hide the page's.
  const browser = await launch(['--disable-gpu-compositing'])
  try {
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const start = performance.now()
    await tab.goto(base)
    await tab.getByRole('navigation', { name: 'Route' }).getByRole('listitem').first().waitFor()
    const usable = performance.now() - start
    await tab.getByTestId('section').first().waitFor()
    const cold = performance.now() - start
    for (const name of [/^Release Full width .*\(c\)/, /^Release Distance up .*\(origin, c\)/])
      await tab.getByRole('button', { name }).click()
    await tab.waitForTimeout(1500)
    const box = (await tab.locator('[data-testid="drawn-point"][data-name="c"]').boundingBox())!
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    await tab.mouse.move(x, y)
    await tab.mouse.down()
    // The pointer moves once a frame, sent inside the page: input from outside waits for each answer.
    // Alt: no snapping, so that every step changes the section.
    const times = (await tab.evaluate(`new Promise((done) => {
      const shown = []
      new MutationObserver(() => shown.push(performance.now()))
        .observe(document.querySelector('[data-testid="section"]'), { attributes: true })
      const table = document.querySelector('[aria-label="Drafting table"]')
      const start = performance.now()
      const step = () => {
        const t = performance.now() - start
        if (t > 4000) return done(shown)
        table.dispatchEvent(new PointerEvent('pointermove', { bubbles: true, cancelable: true, altKey: true,
          clientX: ${x} + 12 * Math.sin(t / 150), clientY: ${y} }))
        requestAnimationFrame(step)
      }
      step()
    })`)) as number[]
    await tab.mouse.up()
    const gaps = times
      .slice(1)
      .map((t, i) => t - times[i]!)
      .sort((a, b) => a - b)
    return { usable, cold, drag: gaps[Math.floor(gaps.length / 2)] ?? Number.NaN }
  } finally {
    await browser.close()
    server.close()
  }
}
