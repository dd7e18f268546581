import { readFile, writeFile } from 'node:fs/promises'
import { type Kernel, loadKernel } from '@ivory/core/kernel'
import { rebuildWith } from '@ivory/core/rebuild'
import { FORMATS, type Format, measureFile, measureWorkpiece, release } from '@ivory/core/release'
import { readWorkpiece, type Workpiece } from '@ivory/core/workpiece'

const USAGE = `ivory measure FILE [--json]         sizes, volumes, wall and capacity of a .lathe.json, STEP or STL file
ivory check FILE                    exit 1 when an op fails or a gauge is out
ivory export FILE --to OUT.(step|stl|3mf|obj|svg) [--tolerance mm]`

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

let kernel: Promise<Kernel> | undefined
const theKernel = () => {
  kernel ??= loadKernel()
  return kernel
}

async function measure(path: string, json: boolean): Promise<number> {
  const r = await measureFile(path, await read(path), theKernel)
  if (!r.ok) throw new Refusal(r.diagnosis.message)
  if (json) {
    console.log(JSON.stringify(r.value, null, 2))
    return 0
  }
  console.log(r.value.name)
  for (const o of r.value.ops)
    console.log(
      `  ${String(o.number).padStart(5)} ${o.kind.padEnd(9)} ${o.status.padEnd(5)} ${o.message}`,
    )
  for (const b of r.value.bodies) {
    const size = [0, 1, 2].map((k) => (b.bounds.max[k]! - b.bounds.min[k]!).toFixed(2)).join(' x ')
    console.log(
      `  ${b.name} (${b.kind}): ${size} mm, ${(b.volume_mm3 / 1000).toFixed(3)} cm3, ${b.closed ? 'closed' : 'open'}`,
    )
    if (b.wall)
      console.log(`    wall ${b.wall.min_mm.toFixed(3)} to ${b.wall.max_mm.toFixed(3)} mm`)
    if (b.capacity) console.log(`    brim ${b.capacity.brim_ml.toFixed(2)} ml`)
  }
  return 0
}

async function check(path: string): Promise<number> {
  const { report, gauges } = await measureWorkpiece(await workpiece(path), theKernel)
  const failed = report.ops.filter((o) => o.status === 'fail')
  const out = gauges.filter((g) => g.verdict === 'out')
  for (const o of failed) console.log(`Op ${o.number} ${o.kind} fails: ${o.message}`)
  for (const g of out) console.log(`${g.label} is out: ${g.reading?.text ?? g.why}`)
  if (failed.length + out.length > 0) return 1
  console.log(`${report.name}: every op holds, ${gauges.length} gauges read, none out.`)
  return 0
}

async function exportTo(path: string, to: string, tolerance: number | undefined): Promise<number> {
  const format = to.toLowerCase().split('.').pop() as Format
  if (!FORMATS.includes(format)) throw new Refusal(`"${to}" is none of ${FORMATS.join(', ')}.`)
  const w = await workpiece(path)
  const built = await rebuildWith(w, theKernel)
  const failed = built.reports.find((r) => r.status === 'fail')
  if (failed) throw new Refusal(`Op ${failed.number} fails: ${failed.diagnoses[0]!.message}`)
  const exact = Object.values(built.state.bodies).some((b) => b.shape.kind === 'exact')
  const made = release(w, built.state, format, {
    ...(tolerance === undefined ? {} : { chord: tolerance }),
    ...(format === 'step' || exact ? { kernel: await theKernel() } : {}),
  })
  if (!made.ok) throw new Refusal(made.diagnosis.message)
  try {
    await writeFile(to, made.value.bytes)
  } catch {
    throw new Refusal(`"${to}" cannot be written.`)
  }
  console.log(`${to}: ${made.value.note}`)
  return 0
}

function option(args: string[], name: string): string | undefined {
  const i = args.indexOf(name)
  if (i < 0) return undefined
  const [, value] = args.splice(i, 2)
  if (value === undefined) throw new Refusal(`${name} needs a value.`)
  return value
}

async function run(argv: string[]): Promise<number> {
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
  console.error(USAGE)
  return 2
}

run(process.argv.slice(2)).then(
  (code) => {
    process.exitCode = code
  },
  (e: unknown) => {
    const sentence =
      e instanceof Refusal
        ? e.message
        : `Something went wrong inside: ${e instanceof Error ? e.message : String(e)}`
    console.error(sentence)
    process.exitCode = 2
  },
)
