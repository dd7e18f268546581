import type { Outcome } from '../../../math'
import type { Dimension } from '../../../workpiece'
import type { OpContext } from '../../state'
import type { Reads } from './inputs'
import { landKey, landOf } from './landing'
import { outlineOf, regionOf, wayOf } from './outline'

/** What was read, and what it reads as in a context, so that it can be told whether that is still the same. */
export interface Noted {
  now(ctx: OpContext): unknown
  was: unknown
}

export const readsOf = (ctx: OpContext): Reads => ({
  length: (v) => ctx.read(v, 'length'),
  angle: (v) => ctx.read(v, 'angle'),
  number: (v) => ctx.read(v, 'number'),
  outline: (id) => outlineOf(id, ctx),
  region: (id) => regionOf(id, ctx),
  way: (id) => wayOf(id, ctx),
  land: (id, chord) => landOf(id, chord, ctx),
})

/** Reads that are noted by their content: what is kept of cages outlives the workpiece they were read in. */
export function noting(ctx: OpContext, into: Noted[]): Reads {
  const reads = readsOf(ctx)
  const number =
    (dim: Dimension, read: Reads['length']): Reads['length'] =>
    (v) => {
      const was = read(v)
      into.push({ now: (c) => c.read(v, dim), was })
      return was
    }
  const drawn =
    <T>(read: (id: string, ctx: OpContext) => Outcome<T>) =>
    (id: string) => {
      const found = read(id, ctx)
      into.push({ now: (c) => JSON.stringify(read(id, c)), was: JSON.stringify(found) })
      return found
    }
  return {
    length: number('length', reads.length),
    angle: number('angle', reads.angle),
    number: number('number', reads.number),
    outline: drawn(outlineOf),
    region: drawn(regionOf),
    way: drawn(wayOf),
    land(id, chord) {
      const found = reads.land(id, chord)
      const key = (c: OpContext) => landKey(c.body(id))
      // A read that failed may hold the next time: it is never taken for the same.
      into.push(found.ok ? { now: key, was: key(ctx) } : { now: () => 'read again', was: 'failed' })
      return found
    },
  }
}

export const unchanged = (noted: readonly Noted[], ctx: OpContext): boolean =>
  noted.every((n) => Object.is(n.now(ctx), n.was))
