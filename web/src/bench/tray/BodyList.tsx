import { bodyCells, bodyRows, csvOf } from '@ivory/core/workpiece'
import { Copy, Download, List } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { listedNow } from '../../session/proofs'
import { useSession } from '../../session/session'
import { Button, IconButton } from '../../ui/controls'
import { copyCells } from '../../ui/copy'
import { downloadFile } from '../../ui/download'

/** The bodies as a list: volume, mass, cost of their material, box and verdict, with the total. */
export function BodyList() {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <IconButton label="Bodies as a list">
          <List size={14} />
        </IconButton>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-20 left-1/2 z-50 flex max-h-[80vh] w-[56rem] max-w-[94vw] -translate-x-1/2 flex-col gap-3 overflow-y-auto rounded-sm border border-rule bg-sheet p-4 shadow-xl"
        >
          <Dialog.Title className="font-medium text-lg">Bodies</Dialog.Title>
          <Listed />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Listed() {
  const doc = useSession((s) => s.doc)!
  const settled = useSession((s) => s.settled)
  if (!settled || settled.waits > 0)
    return <p className="text-soft">The kernel is at work: what it makes is not measured yet.</p>
  const cells = bodyCells(bodyRows(doc, listedNow(settled)))
  const [head, ...rows] = cells as [string[], ...string[][]]
  return (
    <>
      <table className="w-full">
        <thead>
          <tr className="border-rule border-b text-right text-soft text-sm">
            {head.map((h, k) => (
              <th key={h} className={`py-1 pl-3 font-normal ${k < 2 ? 'text-left' : ''}`}>
                {h.replace('cm3', 'cm³')}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr
              // biome-ignore lint/suspicious/noArrayIndexKey: two bodies may bear one name
              key={i}
              className={i === rows.length - 1 ? 'font-medium' : 'border-rule/60 border-b'}
            >
              {row.map((cell, k) =>
                k === 0 ? (
                  <th key={head[k]} scope="row" className="py-1 pl-3 text-left font-[inherit]">
                    {cell}
                  </th>
                ) : (
                  <td
                    key={head[k]}
                    className={`py-1 pl-3 ${k === 1 || k === 8 ? '' : 'figures text-right'}`}
                  >
                    {cell}
                  </td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-soft text-sm">
        Cost is that of the material alone, by the price for 1 kg in your own tables (Settings).
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={() => void copyCells(cells)}>
          <Copy size={14} aria-hidden="true" /> Copy
        </Button>
        <Button onClick={() => downloadFile(`${doc.name}, bodies.csv`, 'text/csv', csvOf(cells))}>
          <Download size={14} aria-hidden="true" /> CSV
        </Button>
      </div>
    </>
  )
}
