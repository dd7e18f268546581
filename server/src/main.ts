import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { createApp } from './app'
import { createMeasuring } from './measuring'

const env = z
  .object({
    HOST: z.string().default('127.0.0.1'),
    PORT: z.coerce.number().int().min(0).max(65535).default(4173),
  })
  .parse(process.env)

// Built, this file and its thread stand beside each other in `dist`.
const here = (file: string) => fileURLToPath(new URL(file, import.meta.url))
const measuring = createMeasuring(here('./measure-thread.js'), 20_000)
const app = createApp({
  page: here('../web/dist'),
  measure: measuring.measure,
  sizeLimit: 20 * 1024 * 1024,
})
const server = app.listen(env.PORT, env.HOST, (error?: Error) => {
  if (error) {
    console.error(`The server could not start: ${error.message}`)
    process.exitCode = 1
    return
  }
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : env.PORT
  console.log(`Ivory Lathe is at http://${env.HOST}:${port}/`)
})
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close()
    void measuring.close()
  })
