// npm test: everything. Ends with one plain line "N passed, N failed" over unit and end-to-end tests.
import { mkdtempSync, readFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { aside, beside, installChromium, installPackages, run } from './common.mjs'

installPackages()
installChromium()

const dir = mkdtempSync(path.join(os.tmpdir(), 'ivory-test-'))
const read = (file) => {
  try {
    return JSON.parse(readFileSync(path.join(dir, file), 'utf8'))
  } catch {
    return null
  }
}

let broken = 0
for (const check of ['types', 'lint', 'rules', 'build']) {
  console.log(`\n== ${check}`)
  if (!run('npm', ['run', '-s', check])) broken++
}

// Both at once: pages wait for the kernel, and the kernel for pages. What the unit tests say is shown when they are done.
console.log('\n== unit and end to end')
await Promise.all([
  aside('npx', [
    'vitest',
    'run',
    ...(os.availableParallelism() > 2 ? [] : ['--maxWorkers=1']),
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${path.join(dir, 'unit.json')}`,
  ]),
  beside('npx', ['playwright', 'test', '-c', 'e2e/playwright.config.ts'], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(dir, 'e2e.json'),
  }),
])

const unit = read('unit.json')
const e2e = read('e2e.json')
if (!unit) console.log('The unit tests left no report.')
if (!e2e) console.log('The end-to-end tests left no report.')
const suitesFailed = unit
  ? unit.testResults.filter((t) => t.status === 'failed' && t.assertionResults.length === 0).length
  : 1
const passed = (unit?.numPassedTests ?? 0) + (e2e ? e2e.stats.expected + e2e.stats.flaky : 0)
const failed =
  (unit?.numFailedTests ?? 0) + suitesFailed + (e2e ? e2e.stats.unexpected : 1) + broken
if (broken)
  console.log(`${broken} of types, lint, rules and build failed; each counts as one failure.`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 && passed > 0 ? 0 : 1)
