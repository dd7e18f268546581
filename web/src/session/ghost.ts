import { useQuery } from '@tanstack/react-query'
import type { BodyView } from '../engine'
import { docOf, proofsOf } from '../storage/proofs'
import { cutPlane } from './cut'
import { type Beside, bodiesOf, useProofs } from './proofs'
import { tablePlane, useSession } from './session'

export const PROOFS = 'proofs'

/** The proofs of the workpiece on the bench, the newest first. */
export function useKeptProofs() {
  const id = useSession((s) => s.doc?.id ?? '')
  return useQuery({ queryKey: [PROOFS, id], queryFn: () => proofsOf(id) })
}

const NONE: BodyView[] = []
/** The bodies of the proof that is shown beside what there is now, and how; none where none is. */
export function useGhost(): { bodies: BodyView[]; how: Beside; making: boolean } {
  const { compared, beside } = useProofs()
  const proof = useKeptProofs().data?.find((p) => p.id === compared?.id)
  const plane = useSession(tablePlane)
  const cut = useSession(cutPlane)
  const shown = proof !== undefined && beside !== null
  const { data, isFetching } = useQuery({
    queryKey: ['ghost', proof?.id, plane, cut],
    queryFn: () => bodiesOf(docOf(proof!), plane, cut),
    enabled: shown,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return {
    bodies: shown ? (data ?? NONE) : NONE,
    how: beside ?? 'ghost',
    making: shown && isFetching,
  }
}
