import { tabbed } from '@ivory/core/workpiece'
import { toast } from 'sonner'

/** Puts cells on the clipboard as text that pastes into a spreadsheet. */
export async function copyCells(cells: readonly (readonly string[])[]): Promise<void> {
  try {
    await navigator.clipboard.writeText(tabbed(cells))
    toast(`${cells.length} ${cells.length === 1 ? 'row is' : 'rows are'} on the clipboard.`)
  } catch {
    toast.error('The browser does not let this page copy: allow it the clipboard.')
  }
}
