import { Command } from 'cmdk'
import { type Command as Cmd, keycap } from '../session/commands'

/** Every command by name, with its key. */
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
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(o) => !o && onClose()}
      label="Find a command"
      className="fixed top-24 left-1/2 z-50 w-[34rem] -translate-x-1/2 rounded-sm border border-rule bg-sheet shadow-xl"
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
    >
      <Command.Input
        placeholder="What do you want to do?"
        className="w-full border-rule border-b bg-transparent px-4 py-3 text-lg outline-none"
      />
      <Command.List className="max-h-96 overflow-y-auto p-2">
        <Command.Empty className="px-3 py-2 text-soft">No command is called that.</Command.Empty>
        {groups.map((g) => (
          <Command.Group
            key={g}
            heading={g}
            className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:text-sm"
          >
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
                  className="flex cursor-pointer items-center justify-between rounded-sm px-3 py-1 data-[selected=true]:bg-brass-wash"
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
