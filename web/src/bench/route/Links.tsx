import { type LinkDoc, renewed } from '@ivory/core/workpiece'
import { useQuery } from '@tanstack/react-query'
import { toast } from 'sonner'
import { PROOFS } from '../../session/ghost'
import { edit, replaceDoc, undo, useSession } from '../../session/session'
import { docOf, type Proof, proofsOf } from '../../storage/proofs'
import { Button } from '../../ui/controls'

const NONE: LinkDoc[] = []

/** Told where something taken over has a newer proof than the one it is linked to. */
export function Links() {
  const links = useSession((s) => s.doc?.links) ?? NONE
  return links.map((l, k) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: the same may be taken over twice
    <Link key={k} link={l} at={k} />
  ))
}

function Link({ link, at }: { link: LinkDoc; at: number }) {
  const { data: proofs = [] } = useQuery({
    queryKey: [PROOFS, link.workpiece],
    queryFn: () => proofsOf(link.workpiece),
    staleTime: 0,
  })
  const newest = proofs[0]
  if (!newest || newest.made <= link.made) return null
  const count = Object.keys(link.ops).length
  return (
    <div className="border-marginal border-b border-l-4 bg-sheet px-2 py-1 text-sm" role="status">
      <p>
        “{link.name}”, which {count === 1 ? 'an op is' : `${count} ops are`} taken from, has a newer
        proof: {newest.name}.
      </p>
      <div className="mt-1 flex gap-1">
        <Button className="px-1.5! py-0! text-sm" onClick={() => take(newest, link, at)}>
          Take it over
        </Button>
        <Button
          className="px-1.5! py-0! text-sm"
          onClick={() => edit((d) => void d.links.splice(at, 1))}
        >
          Let the link go
        </Button>
      </div>
    </div>
  )
}

function take(proof: Proof, link: LinkDoc, at: number): void {
  const { doc } = useSession.getState()
  const made = doc && renewed(doc, docOf(proof), link)
  if (!made) return
  if (typeof made === 'string') {
    toast.error(made)
    return
  }
  const links = made.links.with(at, { ...link, proof: proof.id, made: proof.made })
  replaceDoc(() => ({ ...made, links }))
  toast(`Taken over from “${proof.name}”.`, { action: { label: 'Undo', onClick: undo } })
}
