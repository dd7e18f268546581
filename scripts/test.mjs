// npm test: everything. Ends with one plain line "N passed, N failed" over unit and end-to-end tests.
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { aside, beside, freePort, installChromium, installPackages, root, run } from './common.mjs'

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

const report = (file) => `${file}.json`

/** Letters of what a failed test said that are told again at the end. */
const SAID = 1500

/** Unit tests that failed and files that could not be run, each with what it said. */
const unitsFailed = (unit) =>
  (unit?.testResults ?? []).flatMap((file) => [
    ...(file.status === 'failed' && file.assertionResults.length === 0
      ? [{ title: file.name, said: file.message ?? '' }]
      : []),
    ...file.assertionResults
      .filter((t) => t.status === 'failed')
      .map((t) => ({ title: `${file.name}: ${t.fullName}`, said: t.failureMessages.join('\n') })),
  ])

/** End-to-end tests of one file that failed, each with what it said. */
const pagesFailed = (name) => {
  const of = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(of)]
  const said = (spec) => spec.tests.flatMap((t) => t.results).map((r) => r.error?.message ?? '')
  return (read(report(name))?.suites ?? [])
    .flatMap(of)
    .filter((spec) => !spec.ok)
    .map((spec) => ({ title: `${name}: ${spec.title}`, said: said(spec).join('\n') }))
}

let broken = 0
for (const check of ['types', 'lint', 'rules', 'build']) {
  console.log(`\n== ${check}`)
  if (!run('npm', ['run', '-s', check])) broken++
}

// Both at once: pages wait for the kernel, and the kernel for pages. What the unit tests say is shown when they are done; from then on
// two browsers take what is left, a file at a time.
console.log('\n== unit and end to end')
// Those that take long come first, so that no browser waits for another at the end.
const LONG = [
  'tube',
  'shoulder',
  'dipper',
  'paths',
  'handmade',
  'parting',
  'cages',
  'plug',
  'bodies',
]
const files = readdirSync(path.join(root, 'e2e/tests')).filter((f) => f.endsWith('.spec.ts'))
const long = LONG.map((f) => `${f}.spec.ts`).filter((f) => files.includes(f))
const waiting = [...long, ...files.filter((f) => !long.includes(f))]
async function browsed(port) {
  for (let file = waiting.shift(); file; file = waiting.shift())
    await beside('npx', ['playwright', 'test', '-c', 'e2e/playwright.config.ts', `/${file}`], {
      E2E_PORT: String(port),
      PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(dir, report(file)),
    })
}
const units = aside('npx', [
  'vitest',
  'run',
  ...(os.availableParallelism() > 2 ? [] : ['--maxWorkers=1']),
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${path.join(dir, 'unit.json')}`,
])
await Promise.all([browsed(await freePort()), units.then(async () => browsed(await freePort()))])

const unit = read('unit.json')
const e2e = files.map((file) => read(report(file))?.stats)
if (!unit) console.log('The unit tests left no report.')
for (const [i, file] of files.entries()) if (!e2e[i]) console.log(`${file} left no report.`)
const sum = (of) => e2e.reduce((n, stats) => n + of(stats), 0)
const suitesFailed = unit
  ? unit.testResults.filter((t) => t.status === 'failed' && t.assertionResults.length === 0).length
  : 1
const passed = (unit?.numPassedTests ?? 0) + sum((s) => (s ? s.expected + s.flaky : 0))
const failed =
  (unit?.numFailedTests ?? 0) + suitesFailed + sum((s) => (s ? s.unexpected : 1)) + broken
// What failed is told last, by name: of a long print often only the end is kept.
for (const { title, said } of [...unitsFailed(unit), ...files.flatMap((f) => pagesFailed(f))])
  console.log(`\nFAILED ${title}\n${said.slice(0, SAID)}`)
if (broken)
  console.log(`${broken} of types, lint, rules and build failed; each counts as one failure.`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 && passed > 0 ? 0 : 1)
