// Shared by start and test: installs what is missing.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { createServer } from 'node:net'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '..')

/** Runs a command with its output shown; returns whether it succeeded. */
export function run(command, args, env = {}) {
  const r = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  })
  return r.status === 0
}

/** What was begun beside and is still at work: each with all it began itself, so that nothing is left behind when this ends. */
const children = new Set()
function endAll() {
  for (const { pid } of children)
    try {
      process.kill(-pid, 'SIGTERM')
    } catch (e) {
      if (e.code !== 'ESRCH') throw e
    }
}
const SIGNALS = { SIGINT: 130, SIGTERM: 143, SIGHUP: 129 }
/** From the first child on: what runs nothing beside it ends as any program does. */
function endsAll() {
  for (const [signal, code] of Object.entries(SIGNALS))
    if (process.listenerCount(signal) === 0)
      process.on(signal, () => {
        endAll()
        process.exit(code)
      })
}

/** A port nobody listens on now. */
export const freePort = () =>
  new Promise((done, failed) => {
    const server = createServer()
    server.on('error', failed)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => done(port))
    })
  })

/** The same while other things go on. */
export function beside(command, args, env = {}, stdio = 'inherit') {
  const options = { cwd: root, stdio, detached: true, env: { ...process.env, ...env } }
  const child = spawn(command, args, options)
  endsAll()
  children.add(child)
  child.on('close', () => children.delete(child))
  const said = []
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (d) => said.push(d))
  return new Promise((done) => {
    child.on('error', (e) => {
      console.error(`"${command}" could not be run: ${e.message}`)
      done({ ok: false, said })
    })
    child.on('close', (code) => done({ ok: code === 0, said }))
  })
}

/** The same with its output kept back until it is done. */
export async function aside(command, args) {
  const { ok, said } = await beside(command, args, {}, ['ignore', 'pipe', 'pipe'])
  process.stdout.write(Buffer.concat(said))
  return ok
}

export function must(command, args, env) {
  if (!run(command, args, env)) {
    console.error(`"${command} ${args.join(' ')}" failed.`)
    process.exit(1)
  }
}

export function installPackages() {
  if (existsSync(path.join(root, 'node_modules/.package-lock.json'))) return
  must('npm', ['ci', '--no-audit', '--no-fund'])
}

export function installChromium() {
  if (existsSync('/usr/bin/chromium')) return
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    return run(command, rest, { DEBIAN_FRONTEND: 'noninteractive' })
  }
  if (!apt('update', '-qq') || !apt('install', '-y', '-qq', 'chromium')) {
    console.error('Chromium could not be installed from Debian’s packages.')
    process.exit(1)
  }
}
