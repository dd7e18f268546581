import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { createApp } from './app'
import { createMeasuring } from './measuring'

const cruet = readFileSync(new URL('../../demo/set/oil-cruet.lathe.json', import.meta.url), 'utf8')
const measuring = createMeasuring(
  fileURLToPath(new URL('../../dist/measure-thread.js', import.meta.url)),
  60_000,
)
let server: Server
let base: string
beforeAll(async () => {
  const page = mkdtempSync(path.join(os.tmpdir(), 'page-'))
  writeFileSync(path.join(page, 'index.html'), '<p>here</p>')
  const app = createApp({ page, measure: measuring.measure, sizeLimit: 200_000 })
  await new Promise<void>((r) => {
    server = app.listen(0, '127.0.0.1', () => r())
  })
  const a = server.address()
  base = `http://127.0.0.1:${typeof a === 'object' && a ? a.port : 0}`
})
afterAll(async () => {
  await new Promise((r) => server.close(r))
  await measuring.close()
})

const post = (body: string) =>
  fetch(`${base}/api/measure`, {
    method: 'POST',
    body,
    headers: { 'content-type': 'application/json' },
  })

it('tells its health', async () => {
  expect(await (await fetch(`${base}/api/health`)).json()).toMatchObject({ ok: true })
})
it('measures a posted workpiece', async () => {
  const r = await post(cruet)
  expect(r.status).toBe(200)
  const body = (await r.json()) as { bodies: { capacity: { brim_ml: number } }[] }
  expect(body.bodies[0]!.capacity.brim_ml).toBeGreaterThan(240)
})
it.each([
  ['{', 400, /not valid JSON/],
  ['', 400, /Send the text/],
  ['x'.repeat(300_000), 413, /too large/],
])('refuses a bad body in a sentence', async (text, status, why) => {
  const r = await post(text)
  expect(r.status).toBe(status)
  expect(((await r.json()) as { error: string }).error).toMatch(why)
})
it('serves the page for any route, with a policy that lets nothing foreign in', async () => {
  const r = await fetch(`${base}/w/abc/form`)
  expect(await r.text()).toContain('here')
  const csp = r.headers.get('content-security-policy')!
  expect(csp).toContain("script-src 'self' 'wasm-unsafe-eval'")
  expect(csp).not.toMatch(/https?:/)
  expect((await fetch(`${base}/api/nothing`)).status).toBe(404)
})

it('ends a rebuild that takes too long and measures the next one', async () => {
  const short = createMeasuring(
    fileURLToPath(new URL('../../dist/measure-thread.js', import.meta.url)),
    1,
  )
  expect(await short.measure(cruet)).toMatchObject({ ok: false, status: 408 })
  await short.close()
  expect((await post(cruet)).status).toBe(200)
})
it('refuses what cannot be read before any thread is asked', async () => {
  const none = createMeasuring('/nowhere/thread.js', 1000)
  expect(await none.measure('{')).toMatchObject({ ok: false, status: 400 })
  expect(await none.measure('{"format":"ivory-lathe"}')).toMatchObject({ ok: false, status: 400 })
  await none.close()
})
