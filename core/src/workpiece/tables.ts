import { z } from 'zod'
import { bad, good, type Outcome } from '../math'
import { idSchema } from './id'

export const PROCESSES = ['printed', 'moulded', 'cast', 'blown', 'turned', 'thrown'] as const

const name = z.string().min(1).max(80)
const note = z.string().max(200).default('')

/** A material: density g/cm3, price for 1 kg, and where its figures come from. */
export const materialSchema = z.object({
  id: idSchema,
  name,
  density: z.number().positive().max(30),
  price: z.number().min(0).max(1e6).optional(),
  note,
  source: z.string().max(200).default(''),
})
export type Material = z.infer<typeof materialSchema>

/** A printer: its bed (mm), one line's width and layer (mm), how far walls may lean out (deg from upright) and bridges span (mm). */
export const printerSchema = z.object({
  id: idSchema,
  name,
  bed: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]),
  line: z.number().positive().max(20),
  layer: z.number().positive().max(20),
  angle: z.number().min(0).max(90),
  bridge: z.number().min(0).max(1000),
  note,
})
export type Printer = z.infer<typeof printerSchema>

/** How pieces are made, and its limits: least draft (deg), walls (mm), least radius (mm). */
export const processSchema = z.object({
  id: idSchema,
  name,
  process: z.enum(PROCESSES),
  draft: z.number().min(0).max(90).optional(),
  wallLeast: z.number().positive().optional(),
  wallMost: z.number().positive().optional(),
  radius: z.number().positive().optional(),
  note,
})
export type ProcessLimits = z.infer<typeof processSchema>

/** Tables of one's own, that briefs are filled from. */
export const tablesSchema = z.object({
  materials: z.array(materialSchema).max(500).default([]),
  printers: z.array(printerSchema).max(100).default([]),
  processes: z.array(processSchema).max(100).default([]),
})
export type Tables = z.infer<typeof tablesSchema>

const PRACTICE = 'common practice, no source; set it to your own machine'

/** What a person begins with; to be changed to their own. */
export const START_TABLES: Tables = {
  materials: [],
  printers: [
    {
      id: 'bench-printer',
      name: 'Bench printer, nozzle 0.4',
      bed: [220, 220, 250],
      line: 0.45,
      layer: 0.2,
      angle: 45,
      bridge: 10,
      note: PRACTICE,
    },
  ],
  processes: [
    {
      id: 'moulded',
      name: 'Moulded, thermoplastic',
      process: 'moulded',
      draft: 1,
      wallLeast: 1,
      wallMost: 4,
      radius: 0.5,
      note: 'common practice, no source; ask your mould maker',
    },
    {
      id: 'slip-cast',
      name: 'Slip cast',
      process: 'cast',
      draft: 2,
      wallLeast: 3,
      wallMost: 8,
      note: 'common practice, no source',
    },
  ],
}

/** Tables from a text; a sentence where it holds none. */
export function readTables(text: string): Outcome<Tables> {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    return bad('not-json', 'The file is no JSON.')
  }
  const read = tablesSchema.safeParse(data)
  if (read.success) return good(read.data)
  const [issue] = read.error.issues
  return bad(
    'no-tables',
    `The file holds no tables: ${issue?.path.join(' ') || 'all of it'}: ${issue?.message ?? ''}.`,
  )
}
