import { existsSync } from 'node:fs'
import path from 'node:path'
import compression from 'compression'
import express, { type Express, type NextFunction, type Request, type Response } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { MeasureReply } from './measuring'

export interface AppOptions {
  /** Folder of the built page; without it only the API is served. */
  page?: string
  /** Rebuilds and measures the text of a workpiece. */
  measure(text: string): Promise<MeasureReply>
  /** Largest body accepted, bytes. */
  sizeLimit: number
}

/** The server: the built page, its health, and headless rebuilds. It keeps nothing. */
export function createApp(options: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          // The app's own WebAssembly and workers, nothing foreign.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'", 'blob:'],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          connectSrc: ["'self'", 'blob:', 'data:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(compression())
  app.get('/api/health', (_req, res) => {
    res.json({ ok: true, uptime_s: Math.round(process.uptime()) })
  })
  app.post(
    '/api/measure',
    rateLimit({ windowMs: 60_000, limit: 60, standardHeaders: true, legacyHeaders: false }),
    express.text({ type: ['application/json', 'text/plain'], limit: options.sizeLimit }),
    async (req: Request, res: Response) => {
      if (typeof req.body !== 'string' || req.body.length === 0) {
        res.status(400).json({ error: 'Send the text of a .lathe.json file.' })
        return
      }
      const reply = await options.measure(req.body)
      if (reply.ok) res.json(reply.value)
      else res.status(reply.status).json({ error: reply.error })
    },
  )
  app.use('/api', (_req, res) => {
    res.status(404).json({ error: 'There is no such address.' })
  })
  if (options.page && existsSync(options.page)) servePage(app, options.page)
  app.use((err: { type?: string }, _req: Request, res: Response, next: NextFunction) => {
    if (res.headersSent) return next(err)
    const large = err.type === 'entity.too.large'
    res.status(large ? 413 : 400).json({
      error: large ? 'The file is too large to be measured here.' : 'The request cannot be read.',
    })
  })
  return app
}

function servePage(app: Express, page: string) {
  // Built files carry a hash in their name and never change; the page itself is asked for anew.
  // A worker goes by the policy of its own script. The kernel's bindings make functions from text, so
  // that one worker may; the page may not.
  app.get(/^\/assets\/kernel\.worker-[\w-]+\.js$/, (_req, res, next) => {
    const policy = String(res.getHeader('Content-Security-Policy'))
    res.setHeader(
      'Content-Security-Policy',
      policy.replace("'wasm-unsafe-eval'", "'wasm-unsafe-eval' 'unsafe-eval'"),
    )
    next()
  })
  app.use(
    '/assets',
    express.static(path.join(page, 'assets'), {
      immutable: true,
      maxAge: '1y',
      fallthrough: false,
    }),
  )
  app.use(express.static(page, { setHeaders: (res) => res.setHeader('Cache-Control', 'no-cache') }))
  app.get(/^(?!\/api\/).*/, (_req, res) => {
    res.setHeader('Cache-Control', 'no-cache')
    res.sendFile('index.html', { root: page })
  })
}
