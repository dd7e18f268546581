import { Command } from 'cmdk'
import { useMemo } from 'react'
import { type Command as Cmd, keycap } from '../../session/commands'
import { things } from './finding'

const GROUP =
  '[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:text-sm'
const ITEM =
  'flex cursor-pointer items-center justify-between gap-3 rounded-sm px-3 py-1 data-[selected=true]:bg-brass-wash'

/** Every command by name, with its key; and what the workpiece holds, by name, kind and state. */
export function Palette({
  open,
  onClose,
  commands,
}: {
  open: boolean
  onClose(): void
  commands: Cmd[]
}) {
  const groups = [...new Set(commands.map((c) => c.group))]
  const found = useMemo(() => (open ? things() : []), [open])
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(o) => !o && onClose()}
      label="Find a command"
      className="fixed top-24 left-1/2 z-50 w-[34rem] -translate-x-1/2 rounded-sm border border-rule bg-sheet shadow-xl"
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
    >
      <Command.Input
        placeholder="What do you want to do, or find?"
        className="w-full border-rule border-b bg-transparent px-4 py-3 text-lg outline-none"
      />
      <Command.List className="max-h-96 overflow-y-auto p-2">
        <Command.Empty className="px-3 py-2 text-soft">
          No command, op, figure or body is called that.
        </Command.Empty>
        {(['Ops', 'Figures', 'Bodies'] as const)
          .filter((g) => found.some((t) => t.group === g))
          .map((g) => (
            <Command.Group key={g} heading={g} className={GROUP}>
              {found
                .filter((t) => t.group === g)
                .map((t) => (
                  <Command.Item
                    key={t.id}
                    value={`${t.label} ${t.words} ${t.id}`}
                    onSelect={() => {
                      onClose()
                      t.run()
                    }}
                    className={ITEM}
                  >
                    <span className="truncate">{t.label}</span>
                    <span className="max-w-72 truncate text-soft text-sm">{t.words}</span>
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        {groups.map((g) => (
          <Command.Group key={g} heading={g} className={GROUP}>
            {commands
              .filter((c) => c.group === g)
              .map((c) => (
                <Command.Item
                  key={c.id}
                  value={`${c.label} ${c.group}`}
                  onSelect={() => {
                    onClose()
                    c.run()
                  }}
                  className={ITEM}
                >
                  {c.label}
                  {(c.key || c.shown) && (
                    <kbd className="figures text-soft">{keycap(c.key || c.shown!)}</kbd>
                  )}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  )
}
