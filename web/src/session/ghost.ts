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

/** The bodies of one of the proofs, while they are shown. */
function useBodiesOf(id: string | null | undefined, shown: boolean, cutaway: boolean) {
  const proof = useKeptProofs().data?.find((p) => p.id === id)
  const plane = useSession(tablePlane)
  const cut = useSession(cutPlane)
  const enabled = proof !== undefined && shown
  const { data, isFetching } = useQuery({
    queryKey: ['ghost', proof?.id, plane, cut, cutaway],
    queryFn: () => bodiesOf(docOf(proof!), plane, cut, cutaway),
    enabled,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return { data: enabled ? data : undefined, making: enabled && isFetching }
}

const NONE: BodyView[] = []
/** The bodies of the proof that is shown beside what there is now, and how; none where none is. */
export function useGhost(): { bodies: BodyView[]; how: Beside; making: boolean } {
  const { compared, beside } = useProofs()
  const { data, making } = useBodiesOf(compared?.id, beside !== null, false)
  return { bodies: data ?? NONE, how: beside ?? 'ghost', making }
}

/** The bodies of the proof that another is compared with, in place of those of now; null where it is compared with now. */
export function useInPlace(): BodyView[] | null {
  const { compared, beside } = useProofs()
  const cutaway = useSession((s) => s.cutaway)
  return useBodiesOf(compared?.with, beside !== null, cutaway).data ?? null
}
