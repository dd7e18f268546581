import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Leaves the mark of a first visit, so that the Shelf puts no demo set there: an empty Shelf. */
export async function welcomed(page: Page): Promise<void> {
  await page.goto('/api/health')
  await page.evaluate(
    () =>
      new Promise<void>((done, failed) => {
        const opening = indexedDB.open('ivory-lathe', 1)
        opening.onupgradeneeded = () => {
          opening.result.createObjectStore('workpieces', { keyPath: 'id' })
          opening.result.createObjectStore('settings')
        }
        opening.onerror = () => failed(opening.error)
        opening.onsuccess = () => {
          const writing = opening.result.transaction('settings', 'readwrite')
          writing.objectStore('settings').put(true, 'welcomed')
          writing.onerror = () => failed(writing.error)
          writing.oncomplete = () => {
            opening.result.close()
            done()
          }
        }
      }),
  )
}

/** Opens an empty new workpiece from an empty Shelf. */
export async function newWorkpiece(page: Page): Promise<void> {
  await welcomed(page)
  await page.goto('/')
  await page.getByRole('button', { name: 'New workpiece' }).click()
  await page.waitForURL(/\/brief$/)
}

/** Opens the first workpiece of the demo set, as the first visit does. */
export async function openDemo(page: Page): Promise<void> {
  await page.goto('/')
  await page.waitForURL(/\/w\//)
  await expect(page.getByTestId('section').first()).toBeVisible()
}

export const route = (page: Page) => page.getByRole('navigation', { name: 'Route' })

/** Adds an op of the stage by its two letters. */
export const add = async (page: Page, letter: string) => {
  await page.keyboard.press('Escape')
  await page.keyboard.press('i')
  await page.keyboard.press(letter)
}

/** The line under an op of the route. */
export const line = (page: Page, name: string) =>
  route(page).getByRole('listitem').filter({ hasText: name })

/** An outline on the level plane, closed. */
export async function outline(page: Page, places: string[]): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'p')
  await page.getByLabel('On', { exact: true }).selectOption('top')
  await drawLines(page, [...places, places[0]!])
  await page.keyboard.press('Escape')
}

/** Types into a field and has it take effect. */
export async function commit(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByLabel(label, { exact: true }).press('Enter')
}

/** Adds a figure with a name and a value. */
export async function figure(page: Page, name: string, value: string) {
  await page.getByRole('button', { name: '+ Figure' }).click()
  const row = page.getByLabel('Name of the figure').last()
  await row.fill(name)
  await row.press('Enter')
  await commit(page, `Value of ${name}`, value)
}

export const routeRow = (page: Page, name: string) => route(page).getByText(name, { exact: true })

export async function stage(page: Page, name: string): Promise<void> {
  const link = page
    .getByRole('navigation', { name: 'Stages of the job' })
    .getByRole('link', { name })
  await link.click()
  await expect(link).toHaveAttribute('aria-current', 'page')
}

/** Draws a chain of lines by typing its places. */
export async function drawLines(page: Page, places: readonly string[]): Promise<void> {
  const table = page.getByRole('region', { name: 'Drafting table' })
  await expect(table).toBeVisible()
  await page.keyboard.press('n')
  await typed(page, 'Type a place', places)
  await page.getByLabel('Type a place').press('Escape')
}

/** A drawing of lines on a plane, by typing its places. */
export async function drawing(page: Page, on: string, places: string[]): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'p')
  await page.getByLabel('On', { exact: true }).selectOption({ label: on })
  await drawLines(page, places)
  await page.keyboard.press('Escape')
}

export const choose = (page: Page, label: string, value: string | { label: string }) =>
  page.getByLabel(label, { exact: true }).selectOption(value)

/** A drawing of circles about the origin on a plane, by typing a place on each. */
export async function circles(page: Page, on: string, radii: readonly number[]): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'p')
  await choose(page, 'On', { label: on })
  await expect(page.getByRole('region', { name: 'Drafting table' })).toBeVisible()
  for (const r of radii) {
    await page.keyboard.press('c')
    await typed(page, 'Type a place', ['0 0', `${r} 0`])
    await page.keyboard.press('Escape')
  }
  await page.keyboard.press('Escape')
}

/** A datum plane along another, at a distance from it. */
export async function level(page: Page, from: string, distance: string): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'd')
  await choose(page, 'From', { label: from })
  await commit(page, 'Distance', distance)
}

/** Types places one after the other where they are asked for. */
export async function typed(page: Page, label: string, places: readonly string[]): Promise<void> {
  const entry = page.getByLabel(label)
  for (const p of places) {
    await entry.fill(p)
    await entry.press('Enter')
    await expect(entry).toHaveValue('')
  }
}

/** Types places of a path, one after the other. */
export const places = (page: Page, texts: readonly string[]) =>
  typed(page, 'Type a place of the path', texts)

/** A path through these places alone, by typing them. */
export async function pathThrough(page: Page, texts: readonly string[]): Promise<void> {
  await stage(page, 'Draw')
  await add(page, 'w')
  await places(page, texts)
  // The two it began with.
  for (const n of [2, 1]) await page.getByRole('button', { name: `Take out place ${n}` }).click()
}

/** Waits until the lathe has shown the newest state. */
export const rebuilt = (page: Page) =>
  expect(page.getByTestId('lathe-state')).toHaveText(/rebuilt in|fail/)

export const reading = async (page: Page, kind: string): Promise<number> => {
  const text = (await page.getByTestId(`gauge-${kind}`).textContent()) ?? ''
  return Number(/[\d.]+/.exec(text)![0])
}

export const saved = (page: Page) =>
  expect(page.getByTestId('save-state')).toHaveText('saved on this browser')

/** Places all over the Stage, those in the middle first. */
const spots = Array.from({ length: 23 * 15 }, (_, k) => [
  ((k % 23) + 1) / 24,
  (Math.floor(k / 23) + 1) / 16,
]).sort((a, b) => Math.hypot(a[0]! - 0.5, a[1]! - 0.5) - Math.hypot(b[0]! - 0.5, b[1]! - 0.5)) as [
  number,
  number,
][]

/**
 * Finds the first of the places at which a pointer is told such a name, by pointer events in the page itself: a real
 * mouse takes a way to the browser and back for each place. `null` where there is none.
 */
const firstNamed = (page: Page, places: { x: number; y: number }[], text: string | RegExp) =>
  page.evaluate(
    async ({ places, pattern, flags }) => {
      const named = new RegExp(pattern, flags)
      const hover = document.querySelector('[data-testid="hover"]')!
      const turn = new MessageChannel()
      turn.port1.start()
      const next = () =>
        new Promise((done) => {
          turn.port1.onmessage = done
          turn.port2.postMessage(0)
        })
      for (const { x, y } of places) {
        const event = { clientX: x, clientY: y, bubbles: true, pointerId: 1, pointerType: 'mouse' }
        document.elementFromPoint(x, y)?.dispatchEvent(new PointerEvent('pointermove', event))
        await next()
        await next()
        if (named.test(hover.textContent ?? '')) return { x, y }
      }
      return null
    },
    typeof text === 'string'
      ? { places, pattern: text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), flags: '' }
      : { places, pattern: text.source, flags: text.flags },
  )

/** Moves the mouse over the Stage until what is under it is called so; gives the place. */
export async function over(page: Page, text: string | RegExp): Promise<{ x: number; y: number }> {
  const canvas = page.getByRole('region', { name: 'Stage' }).locator('canvas')
  const hover = page.getByTestId('hover')
  let found = { x: 0, y: 0 }
  let times = 0
  await expect(async () => {
    const box = (await canvas.boundingBox())!
    // Each time a little beside: an edge is thinner than the places stand apart.
    const [du, dv] = [(times % 4) / (4 * 24), (times % 3) / (3 * 16)]
    times++
    const places = spots.map(([u, v]) => ({
      x: box.x + box.width * (u + du),
      y: box.y + box.height * (v + dv),
    }))
    const at = await firstNamed(page, places, text)
    if (!at) throw new Error(`nothing is called ${text}`)
    found = at
    await page.mouse.move(found.x, found.y)
    if (typeof text === 'string') await expect(hover).toContainText(text, { timeout: 1000 })
    else await expect(hover).toHaveText(text, { timeout: 1000 })
  }).toPass({ timeout: 300_000 })
  return found
}

/** Clicks on what is called so, wherever it is seen on the Stage. */
export async function click(page: Page, what: string | RegExp): Promise<void> {
  const { x, y } = await over(page, what)
  await page.mouse.click(x, y)
}
export const look = (page: Page, from: string) =>
  page.getByRole('button', { name: from, exact: true }).click()
/** A button by all of its name. */
export const button = (page: Page, name: string) => page.getByRole('button', { name, exact: true })
/** What the sheet of a cage says is picked. */
export const picks = (page: Page) => page.getByTestId('cage-picks')
export const picked = (page: Page) => page.getByRole('button', { name: /^Done picking/ }).click()

/** Nothing stands in the way of people who use it by other means, as far as axe finds; what fades in is looked at once it is there. */
export async function accessible(page: Page): Promise<void> {
  await page.waitForFunction(() =>
    document
      .getAnimations()
      .every(
        (a) =>
          a.playState !== 'running' ||
          a.effect?.getComputedTiming().iterations === Number.POSITIVE_INFINITY,
      ),
  )
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(
    violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`),
  ).toEqual([])
}
