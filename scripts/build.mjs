// Builds the command line, the server and its threads into dist/ where a source is newer than what is there.
import { readdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { must, root } from './common.mjs'

const SOURCES = ['core/src', 'cli/src', 'server/src', 'vite.node.config.ts', 'package-lock.json']

function newest(file) {
  const found = statSync(file)
  if (!found.isDirectory()) return found.mtimeMs
  return Math.max(0, ...readdirSync(file).map((f) => newest(path.join(file, f))))
}

export function buildNode() {
  const built = statSync(path.join(root, 'dist/ivory.js'), { throwIfNoEntry: false })?.mtimeMs ?? 0
  if (Math.max(...SOURCES.map((s) => newest(path.join(root, s)))) <= built) return
  must('npm', ['run', '-s', 'build:node'])
}
