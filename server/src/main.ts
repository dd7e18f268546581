import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { createApp } from './app'

const env = z
  .object({
    HOST: z.string().default('127.0.0.1'),
    PORT: z.coerce.number().int().min(0).max(65535).default(4173),
  })
  .parse(process.env)

const page = path.join(path.dirname(fileURLToPath(import.meta.url)), '../../web/dist')
const app = createApp({ page, timeLimit: 20_000, sizeLimit: 20 * 1024 * 1024 })
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
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => server.close())
