import type { Reading } from '../session/session'
import { useSession } from '../session/session'
import { Choice } from '../ui/controls'

/** What the look is, and its direction and size. */
export function LookPanel({ reading }: { reading: Reading }) {
  const put = (change: Partial<Reading>) =>
    useSession.setState({ reading: { ...reading, ...change } })
  const stripes = reading.kind === 'stripes'
  return (
    <div
      className="absolute top-2 left-1/2 flex -translate-x-1/2 items-center gap-1.5 rounded-sm border border-rule bg-sheet/90 px-2 py-1 text-sm"
      data-testid="look"
    >
      <span className="font-medium">{stripes ? 'Mirrored stripes' : 'Lean against a pull'}</span>
      <Choice
        label={stripes ? 'Stripes lie along' : 'Pulled along'}
        value={reading.along}
        options={['x', 'y', 'z'].map((value) => ({ value, label: `along ${value}` }))}
        onChange={(along) => put({ along: along as Reading['along'] })}
      />
      <label className="flex items-center gap-1">
        {stripes ? 'stripes' : 'at least'}
        <input
          type="number"
          min={stripes ? 2 : 0}
          max={stripes ? 80 : 45}
          step={stripes ? 2 : 0.5}
          className="figures w-14 rounded-sm border border-rule bg-sheet px-1"
          value={reading.size}
          onKeyDown={(e) => e.stopPropagation()}
          onChange={(e) => put({ size: Math.max(0, Number(e.target.value) || 0) })}
        />
        {!stripes && '°'}
      </label>
      {!stripes && (
        <span className="flex items-center gap-1">
          <span className="inline-block size-3 border border-rule bg-[#9e3d29]" /> leans less
        </span>
      )}
    </div>
  )
}
