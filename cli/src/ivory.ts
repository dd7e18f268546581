import { readFile, writeFile } from 'node:fs/promises'
import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { inPlace, rebuildWith } from '@ivory/core/rebuild'
import {
  FORMATS,
  type Format,
  measureFile,
  measureWorkpiece,
  releaseFile,
} from '@ivory/core/release'
import { readWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import { reportLines } from './words'

const USAGE = `ivory measure FILE [--json]         sizes, volumes, wall and capacity of a .lathe.json, STEP or STL file;
                                    exit 1 when an op fails or there is no body
ivory check FILE                    exit 1 when an op fails, a gauge is out or cannot be read
ivory export FILE --to OUT.(step|stl|zip|3mf|obj|svg|pdf) [--tolerance mm]
Every call may carry --limit SECONDS (120), after which it is stopped.`

/** What a call came to: exit code and the lines for the terminal. */
export interface Said {
  code: number
  out: string[]
  err: string[]
}

/** A problem with what was asked or given: one sentence, exit 2. */
class Refusal extends Error {}

async function read(path: string): Promise<Uint8Array> {
  try {
    return await readFile(path)
  } catch {
    throw new Refusal(`The file "${path}" cannot be read.`)
  }
}

async function workpiece(path: string): Promise<Workpiece> {
  const w = readWorkpiece(new TextDecoder().decode(await read(path)))
  if (!w.ok) throw new Refusal(w.diagnosis.message)
  return w.value
}

let shapes: Promise<ShapeStore> | undefined
const theShapes = () => {
  shapes ??= loadShapes()
  return shapes
}

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`

async function measure(path: string, json: boolean): Promise<Said> {
  const r = await measureFile(path, await read(path), theShapes)
  if (!r.ok) throw new Refusal(r.diagnosis.message)
  const failed = r.value.ops.filter((o) => o.status === 'fail')
  const err = [
    ...failed.map((o) => `Op ${o.number} ${o.kind} fails: ${o.message}`),
    ...(r.value.bodies.length === 0 ? ['There is no body to measure.'] : []),
  ]
  const out = json ? [JSON.stringify(r.value, null, 2)] : reportLines(r.value)
  return { code: err.length > 0 ? 1 : 0, out, err }
}

async function check(path: string): Promise<Said> {
  const { report, gauges } = await measureWorkpiece(await workpiece(path), theShapes)
  const failed = report.ops.filter((o) => o.status === 'fail')
  const unread = gauges.filter((g) => !g.reading)
  const away = gauges.filter((g) => g.reading && g.verdict === 'out')
  const out = [
    ...failed.map((o) => `Op ${o.number} ${o.kind} fails: ${o.message}`),
    ...away.map((g) => `${g.label} is out: ${g.reading!.text}`),
    ...unread.map((g) => `${g.label} cannot be read: ${g.why}`),
  ]
  const bare = report.bodies.length === 0
  if (bare) out.push('There is no body to check.')
  const holds = failed.length === 0 ? 'every op holds' : `${count(failed.length, 'op')} failing`
  out.push(
    `${report.name}: ${holds}, ${count(gauges.length - unread.length, 'gauge')} read, ${away.length === 0 ? 'none' : away.length} out, ${unread.length === 0 ? 'none' : unread.length} without a reading.`,
  )
  return { code: bare || failed.length + away.length + unread.length > 0 ? 1 : 0, out, err: [] }
}

async function exportTo(path: string, to: string, tolerance: number | undefined): Promise<Said> {
  const format = to.toLowerCase().split('.').pop() as Format
  if (!FORMATS.includes(format)) throw new Refusal(`"${to}" is none of ${FORMATS.join(', ')}.`)
  const w = await workpiece(path)
  const built = await rebuildWith(w, inPlace(w, theShapes))
  const failed = built.reports.find((r) => r.status === 'fail')
  if (failed) throw new Refusal(`Op ${failed.number} fails: ${failed.diagnoses[0]!.message}`)
  const exact = Object.values(built.state.bodies).some((b) => b.shape.kind !== 'turned')
  const made = await releaseFile(w, built, format, {
    ...(tolerance === undefined ? {} : { chord: tolerance }),
    ...(format === 'step' || exact ? { shapes: await theShapes() } : {}),
  })
  if (!made.ok) throw new Refusal(made.diagnosis.message)
  try {
    await writeFile(to, made.value.bytes)
  } catch {
    throw new Refusal(`"${to}" cannot be written.`)
  }
  return { code: 0, out: [`${to}: ${made.value.note}`], err: [] }
}

/** Takes `name` and its value out of the arguments. */
function option(args: string[], name: string): string | undefined {
  const i = args.indexOf(name)
  if (i < 0) return undefined
  const [, value] = args.splice(i, 2)
  if (value === undefined) throw new Refusal(`${name} needs a value.`)
  return value
}

async function run(argv: readonly string[]): Promise<Said> {
  const args = [...argv]
  const verb = args.shift()
  const json = args.includes('--json')
  const to = option(args, '--to')
  const tol = option(args, '--tolerance')
  const tolerance = tol === undefined ? undefined : Number(tol)
  if (tolerance !== undefined && !Number.isFinite(tolerance))
    throw new Refusal('--tolerance needs a number in mm.')
  const [file, extra] = args.filter((a) => a !== '--json')
  if (extra !== undefined) throw new Refusal(`"${extra}" is not understood here.`)
  if (verb === 'measure' && file) return measure(file, json)
  if (verb === 'check' && file) return check(file)
  if (verb === 'export' && file && to) return exportTo(file, to, tolerance)
  return { code: 2, out: [], err: [USAGE] }
}

/** Carries out one call; whatever goes wrong is a sentence and exit 2. */
export async function ivory(argv: readonly string[]): Promise<Said> {
  try {
    return await run(argv)
  } catch (e) {
    const why = e instanceof Error ? e.message : String(e)
    const sentence = e instanceof Refusal ? why : `Something went wrong inside: ${why}`
    return { code: 2, out: [], err: [sentence] }
  }
}
