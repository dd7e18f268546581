import type { Bend, Reading } from '../session/session'
import { useSession } from '../session/session'
import { Choice } from '../ui/controls'
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
          onChange={(along) =>
            useSession.setState({ reading: { ...reading, along: along as 'x' | 'y' | 'z' } })
          }
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
      {kind === 'lean' && <Ink color={INKS.less} word="leans less" />}
      {reading.kind === 'bends' && <BendInks of={reading.of} />}
    </div>
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
