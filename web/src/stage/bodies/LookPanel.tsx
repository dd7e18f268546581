import type { Axis, Bend, Reading } from '../../session/session'
import { useSession } from '../../session/session'
import { Choice } from '../../ui/controls'
import { BEND_WORDS, INKS } from './Look'

const TITLES = {
  stripes: 'Mirrored stripes',
  lean: 'Lean against a pull',
  bends: 'How tightly it bends',
} as const
/** What the figure of a look is called, its least and most, and its step. */
const FIGURES = {
  stripes: { word: 'stripes', unit: '', min: 2, max: 80, step: 2 },
  lean: { word: 'at least', unit: '°', min: 0, max: 45, step: 0.5 },
  bends: { word: 'radius', unit: 'mm', min: 0.1, max: 1000, step: 0.5 },
} as const

/** What the look is, and its direction or side, and its size. */
export function LookPanel({ reading }: { reading: Reading }) {
  const { kind } = reading
  const { word, unit, min, max, step } = FIGURES[kind]
  return (
    <div
      className="absolute top-2 left-1/2 flex -translate-x-1/2 items-center gap-1.5 whitespace-nowrap rounded-sm border border-rule bg-sheet/90 px-2 py-1 text-sm"
      data-testid="look"
    >
      <span className="font-medium">{TITLES[kind]}</span>
      {reading.kind === 'bends' ? (
        <Choice
          label="What is shown"
          value={reading.of}
          options={Object.entries(BEND_WORDS).map(([value, label]) => ({ value, label }))}
          onChange={(of) => useSession.setState({ reading: { ...reading, of: of as Bend } })}
        />
      ) : (
        <Choice
          label={kind === 'stripes' ? 'Stripes lie along' : 'Pulled along'}
          value={reading.along}
          options={['x', 'y', 'z'].map((value) => ({ value, label: `along ${value}` }))}
          onChange={(v) => {
            const along = v as Axis
            const next = { ...reading, along }
            if (next.kind === 'lean' && next.second === along) next.second = null
            useSession.setState({ reading: next })
          }}
        />
      )}
      <label className="flex items-center gap-1">
        {word}
        <input
          type="number"
          min={min}
          max={max}
          step={step}
          className="figures w-14 rounded-sm border border-rule bg-sheet px-1"
          value={reading.size}
          onKeyDown={(e) => e.stopPropagation()}
          onChange={(e) =>
            useSession.setState({
              reading: { ...reading, size: Math.max(0, Number(e.target.value) || 0) },
            })
          }
        />
        {unit}
      </label>
      {reading.kind === 'lean' && <Mould reading={reading} />}
      {reading.kind === 'bends' && <BendInks of={reading.of} />}
    </div>
  )
}

/** Where the halves of the mould part, and a second pull. */
function Mould({ reading }: { reading: Extract<Reading, { kind: 'lean' }> }) {
  const axes = (['x', 'y', 'z'] as const).filter((a) => a !== reading.along)
  return (
    <>
      <label className="flex items-center gap-1" title="Empty: each place goes the way it looks.">
        parts at
        <input
          type="number"
          className="figures w-16 rounded-sm border border-rule bg-sheet px-1"
          value={reading.parts ?? ''}
          onKeyDown={(e) => e.stopPropagation()}
          onChange={(e) => {
            const parts = e.target.value === '' ? null : Number(e.target.value)
            useSession.setState({ reading: { ...reading, parts } })
          }}
        />
        mm
      </label>
      <Choice
        label="Second pull"
        value={reading.second ?? 'none'}
        options={[
          { value: 'none', label: 'no second pull' },
          ...axes.map((value) => ({ value, label: `and along ${value}` })),
        ]}
        onChange={(v) =>
          useSession.setState({
            reading: { ...reading, second: v === 'none' ? null : (v as Axis) },
          })
        }
      />
      <Ink color={INKS.less} word="leans less" />
    </>
  )
}

function BendInks({ of }: { of: Bend }) {
  const words =
    of === 'product'
      ? ['dome', 'saddle']
      : [of !== 'hollow' && 'bulges', of !== 'bulge' && 'hollow']
  return (
    <>
      {words[0] && <Ink color={INKS.out} word={words[0]} />}
      {words[1] && <Ink color={INKS.in} word={words[1]} />}
      <span className="text-soft">hatched: tighter</span>
    </>
  )
}

const Ink = ({ color, word }: { color: string; word: string }) => (
  <span className="flex items-center gap-1">
    <span className="inline-block size-3 border border-rule" style={{ backgroundColor: color }} />{' '}
    {word}
  </span>
)
