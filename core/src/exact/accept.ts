import type { Kernel, SolidHandle } from '../kernel'
import { bad, good, mm, type Outcome, rounded } from '../math'
import { closedBy, countEdges, weldIndexed } from '../mesh'
import { SHOWN } from './part'

/** Volumes that have to agree may differ by this share: what the kernel's quadrature is off near poles. */
const SAME = 2e-6

/**
 * The volume of a shape, mm3, once it is believed: closed, valid to the kernel's own check, and the same by
 * its surfaces and by its triangles, within what triangles can be off.
 */
export function soundVolume(kernel: Kernel, shape: SolidHandle, what: string): Outcome<number> {
  const m = kernel.measure(shape)
  if (m.solids === 0 || !m.closed) return bad('not-sound', `${what} does not close.`)
  if (!m.valid) return bad('not-sound', `${what} fails the kernel’s own check.`)
  if (!(m.volume > 0)) return bad('not-sound', `${what} is inside out.`)
  const byTriangles = kernel.volumeByTriangles(shape, SHOWN.chord, SHOWN.angle)
  // Triangles within the chord of the surface; a little more where the kernel keeps it loosely.
  if (Math.abs(byTriangles - m.volume) > 1.5 * SHOWN.chord * m.area)
    return bad(
      'not-sound',
      `${what} measures ${rounded(m.volume, 0)} mm³ by its surfaces and ${rounded(byTriangles, 0)} mm³ by its triangles, so neither is believed.`,
    )
  return good(m.volume)
}

/** Whether the triangles that show a shape close, as they have to in files for printing. */
export function trianglesClose(kernel: Kernel, shape: SolidHandle): boolean {
  return closedBy(countEdges(weldIndexed(kernel.shown(shape, SHOWN.chord, SHOWN.angle))))
}

/** What is wrong with a shape that has to have this volume, mm3; null where nothing is. */
export function rightVolume(
  kernel: Kernel,
  { shape }: { shape: SolidHandle },
  volume: number,
  what: string,
): Outcome<never> | null {
  const sound = soundVolume(kernel, shape, what)
  if (!sound.ok) return sound
  if (Math.abs(sound.value / volume - 1) <= SAME) return null
  return bad(
    'not-right',
    `${what} measures ${rounded(sound.value, 2)} mm³ in the kernel, not ${rounded(volume, 2)} mm³, so it is not used.`,
  )
}

/** How far a sampled wall may be off, mm. */
const WALL_OFF = 2e-3

/**
 * What is wrong with a wall (mm) between faces of a shape and others, by `per` places on each; null where nothing is. Nowhere nearer
 * than the wall; beside an opening a face reaches past the one before it, so that only its nearest place is exactly a wall away.
 */
export function wrongWall(
  kernel: Kernel,
  behind: { shape: SolidHandle; faces: number[] },
  before: { shape: SolidHandle; faces: number[] },
  wall: number,
  per: number,
): Outcome<never> | null {
  const read = kernel.distances(behind.shape, behind.faces, before.shape, before.faces, per)
  const nearest = read.filter((d) => d.length > 0).map((d) => Math.min(...d))
  if (nearest.length === 0) return bad('not-right', 'Its wall cannot be measured.')
  const off = Math.max(...nearest.map((d) => Math.abs(d - wall)))
  return off > WALL_OFF ? bad('not-right', `Its wall is off by ${mm(off)}.`) : null
}
