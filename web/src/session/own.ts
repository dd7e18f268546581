import { AS_WORKED_OUT, asLiked, START_TABLES, tablesSchema } from '@ivory/core/workpiece'
import { toast } from 'sonner'
import { z } from 'zod'
import { create } from 'zustand'
import { getSetting, setSetting } from '../storage/db'

const decimals = z.number().int().min(0).max(6).optional()

/** What a person has set for themselves, on this browser. */
export const ownSchema = z.object({
  theme: z.enum(['light', 'dark']).default('light'),
  type: z.enum(['usual', 'larger']).default('usual'),
  motion: z.enum(['usual', 'less']).default('usual'),
  /** Keys of commands that are not as they come, by the command's id. */
  keys: z.record(z.string().max(60), z.string().max(40)).default({}),
  numbers: z
    .object({
      length: decimals,
      volume: decimals,
      mass: decimals,
      angle: decimals,
      beside: z.enum(['none', 'inches', 'fractions']).default('none'),
      comma: z.boolean().default(false),
    })
    .default(AS_WORKED_OUT),
  tables: tablesSchema.default(START_TABLES),
})
export type Own = z.infer<typeof ownSchema>

export const useOwn = create<Own>(() => ownSchema.parse({}))

/** Changes settings, shows them at once and keeps them. */
export function setOwn(change: Partial<Own>): void {
  useOwn.setState(change)
  applied(useOwn.getState())
  void setSetting('own', useOwn.getState()).catch((e: unknown) =>
    toast.error(e instanceof Error ? e.message : String(e), { id: 'own' }),
  )
}

/** Fetches what was kept; what is none any more is left as it comes. */
export async function loadOwn(): Promise<void> {
  // Without storage everything is as it comes.
  const read = ownSchema.safeParse(await getSetting('own').catch(() => undefined))
  if (read.success) useOwn.setState(read.data)
  applied(useOwn.getState())
}

/** Settings from a text; a sentence where it holds none. */
export function readOwn(text: string): Own | string {
  try {
    const read = ownSchema.safeParse(JSON.parse(text))
    if (read.success) return read.data
    const [issue] = read.error.issues
    return `The file holds no settings: ${issue?.path.join(' ')}: ${issue?.message}.`
  } catch {
    return 'The file is no JSON.'
  }
}

/** The look of the page follows from marks on its root. */
function applied({ theme, type, motion }: Own): void {
  const { dataset } = document.documentElement
  dataset.theme = theme
  dataset.type = type
  dataset.motion = motion
}

/** Numbers in a sentence as they are liked. */
export function useLiked(): (text: string) => string {
  const numbers = useOwn((s) => s.numbers)
  return (text) => asLiked(text, numbers)
}
