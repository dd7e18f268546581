import {
  AlignJustify,
  ArrowUpFromLine,
  Box,
  ChartSpline,
  Droplets,
  Grid3x3,
  Layers,
  Maximize,
  Scissors,
  Spline,
} from 'lucide-react'
import { lookWith, toggleLines } from '../session/looking'
import { useSession } from '../session/session'
import { IconButton } from '../ui/controls'

/** How what stands on the Stage is looked at, button by button. */
export function StageButtons({ onFit }: { onFit: () => void }) {
  const cutaway = useSession((s) => s.cutaway)
  const fill = useSession((s) => s.fill)
  const wallMap = useSession((s) => s.wallMap)
  const lens = useSession((s) => s.reading)
  const lines = useSession((s) => s.lines)
  const pathComb = useSession((s) => s.pathComb)
  const parallel = useSession((s) => s.parallel)
  const onPath = useSession(
    (s) => s.settled?.datums.some((d) => d.kind === 'path' && d.id === s.selected) ?? false,
  )
  return (
    <div
      // In as many columns as a low Stage needs, the further ones to the left.
      className="pointer-events-none absolute top-2 right-2 bottom-2 grid auto-cols-[1.75rem] grid-flow-col grid-rows-[repeat(auto-fill,1.75rem)] gap-1 [direction:rtl] *:pointer-events-auto *:border *:border-rule *:not-aria-pressed:bg-sheet/90"
    >
      <IconButton label="Fit to view" hint="Z" onClick={onFit}>
        <Maximize size={16} />
      </IconButton>
      <IconButton
        label="Cut away half"
        hint="H"
        active={cutaway}
        onClick={() => useSession.setState({ cutaway: !cutaway })}
      >
        <Scissors size={16} />
      </IconButton>
      <IconButton
        label="Fill with liquid"
        hint="L"
        active={fill !== null}
        onClick={() => useSession.setState({ fill: fill === null ? 0.9 : null })}
      >
        <Droplets size={16} />
      </IconButton>
      <IconButton
        label="Wall all over"
        hint="W"
        active={wallMap}
        onClick={() => useSession.setState({ wallMap: !wallMap })}
      >
        <Layers size={16} />
      </IconButton>
      <IconButton
        label="Mirrored stripes"
        hint="E"
        active={lens?.kind === 'stripes'}
        onClick={() => lookWith('stripes')}
      >
        <AlignJustify size={16} />
      </IconButton>
      <IconButton
        label="Lean against a pull"
        hint="Shift+E"
        active={lens?.kind === 'lean'}
        onClick={() => lookWith('lean')}
      >
        <ArrowUpFromLine size={16} />
      </IconButton>
      <IconButton
        label="How tightly it bends"
        hint="U"
        active={lens?.kind === 'bends'}
        onClick={() => lookWith('bends')}
      >
        <Spline size={16} />
      </IconButton>
      <IconButton
        label="Lines of its surfaces"
        hint="Shift+L"
        active={lines !== null}
        onClick={toggleLines}
      >
        <Grid3x3 size={16} />
      </IconButton>
      {onPath && (
        <IconButton
          label="Curvature comb of the chosen path"
          hint="Shift+U"
          active={pathComb}
          onClick={() => useSession.setState({ pathComb: !pathComb })}
        >
          <ChartSpline size={16} />
        </IconButton>
      )}
      <IconButton
        label="Parallel view"
        hint="O"
        active={parallel}
        onClick={() => useSession.setState({ parallel: !parallel })}
      >
        <Box size={16} />
      </IconButton>
    </div>
  )
}
