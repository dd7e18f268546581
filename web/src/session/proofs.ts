import { type Frame, fixed } from '@ivory/core/math'
import type { KeptBody, KeptReading, ListedBody, Workpiece } from '@ivory/core/workpiece'
import { nanoid } from 'nanoid'
import { create } from 'zustand'
import { type BodyView, lathe, type View } from '../engine'
import { snapshot } from '../stage/pictures/snapshot'
import { docOf, keepProof, type Proof } from '../storage/proofs'
import { verdictWord } from './autosave'
import { cutPlane } from './cut'
import { replaceDoc, tablePlane, useSession } from './session'

/** How a proof is shown on the Stage: through what there is now, or in the half that is cut away. */
export type Beside = 'ghost' | 'half'

interface Proofs {
  /** Whether the drawer is open, in place of the sheet. */
  open: boolean
  /** The proof that is compared, and with which other; with now where that is null. */
  compared: { id: string; with: string | null } | null
  beside: Beside | null
}
export const useProofs = create<Proofs>(() => ({ open: false, compared: null, beside: null }))

export const openProofs = (open: boolean): void =>
  useProofs.setState(open ? { open } : { open, compared: null, beside: null })

/** What gauges read, as a proof keeps it. */
export const readingsNow = ({ gauges, bodies }: Pick<View, 'gauges' | 'bodies'>): KeptReading[] =>
  gauges.map((g) => ({
    gauge: g.id,
    kind: g.kind,
    label: g.label,
    body: bodies.find((b) => b.id === g.body)?.name ?? '',
    value: g.reading ? (g.reading.low + g.reading.high) / 2 : null,
    text: g.reading?.text ?? '–',
    verdict: g.verdict,
  }))
export const bodiesNow = ({ bodies }: Pick<View, 'bodies'>): KeptBody[] =>
  bodies
    .filter((b) => !b.away && !b.content)
    .map(({ id, name, volume, bounds: { min, max } }) => ({
      id,
      name,
      volume,
      size: [max[0] - min[0], max[1] - min[1], max[2] - min[2]],
    }))

/** The bodies with the word of their gauges, as lists and reports tell them. */
export const listedNow = (view: Pick<View, 'gauges' | 'bodies'>): ListedBody[] =>
  bodiesNow(view).map((b) => ({
    ...b,
    verdict: verdictWord(view.gauges.filter((g) => g.body === b.id)) ?? '',
  }))

/** Keeps the workpiece as it is now. Null while the kernel is at work: what it reads is then not of all of it. */
export async function proofNow(name: string, released = false): Promise<Proof | null> {
  const { doc, settled } = useSession.getState()
  if (!doc || !settled || settled.waits > 0) return null
  const picture = snapshot()
  const proof: Proof = {
    id: nanoid(),
    workpiece: doc.id,
    name: name.trim().slice(0, 120) || `Proof of ${new Date().toLocaleString()}`,
    made: Date.now(),
    doc,
    readings: readingsNow(settled),
    bodies: bodiesNow(settled),
    ...(picture ? { picture } : {}),
    ...(released ? { released } : {}),
  }
  await keepProof(proof)
  return proof
}

/** Goes back to a proof, in one step that can be undone; the log goes on. */
export function backTo(proof: Proof): void {
  const doc = docOf(proof)
  replaceDoc((now) => ({ ...doc, id: now.id, log: now.log }))
}

/** The bodies of a document, whole or cut away, cut in the planes of the Table and the Stage as they stand. */
export async function bodiesOf(
  doc: Workpiece,
  plane: Frame,
  cut: Frame,
  cutaway = false,
): Promise<BodyView[]> {
  const free = useSession.getState().cut !== null
  const view = await lathe.call('portrayed', {
    doc,
    view: {
      cutaway,
      fill: null,
      draft: false,
      solid: true,
      plane,
      cut: { plane: cut, free },
    },
  })
  return (view?.bodies ?? []).filter((b) => !b.away && !b.hidden && !b.content)
}

/** The planes a proof's bodies are to be cut in, the same object as long as they are the same. */
export const planesNow = (s: Parameters<typeof tablePlane>[0] & Parameters<typeof cutPlane>[0]) =>
  [tablePlane(s), cutPlane(s)] as const

/** A difference with its sign. */
export const signed = (x: number, digits: number): string =>
  `${x > 0 ? '+' : x < 0 ? '−' : '±'}${fixed(Math.abs(x), digits)}`
