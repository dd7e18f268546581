import { z } from 'zod'

/** What things of a workpiece are called among themselves. */
export const idSchema = z
  .string()
  .regex(/^[A-Za-z][\w-]{0,31}$/, 'an id is a letter, then letters, digits, - or _ (32 at most)')
