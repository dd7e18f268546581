import { CircleDashed, Grid2x2, Link2, Maximize, Rainbow } from 'lucide-react'
import { memo, useState } from 'react'
import { toast } from 'sonner'
import { keycap } from '../session/commands'
import { IconButton } from '../ui/controls'
import { typedSpot } from './drawing/edits'
import { type DrawingState, TOOL_KEYS, TOOL_LABELS, type Tool } from './drawing/useDrawing'

/** Own marks for the tools: the shape itself with its points. */
const MARKS: Record<Tool, { path: string; dots: [number, number][] }> = {
  select: { path: 'M5 3l9 7-4 .6L8 15z', dots: [] },
  line: {
    path: 'M3 15L15 3',
    dots: [
      [3, 15],
      [15, 3],
    ],
  },
  arc: {
    path: 'M3 14A8 8 0 0 1 15 8',
    dots: [
      [3, 14],
      [7, 8.7],
      [15, 8],
    ],
  },
  'centre-arc': {
    path: 'M15 15A11 11 0 0 0 4 4',
    dots: [
      [4, 15],
      [15, 15],
      [4, 4],
    ],
  },
  'tangent-arc': {
    path: 'M2 14h6A6 6 0 0 0 14 6',
    dots: [
      [8, 14],
      [14, 6],
    ],
  },
  circle: { path: 'M15 9A6 6 0 1 1 3 9A6 6 0 1 1 15 9', dots: [[9, 9]] },
  fit: {
    path: 'M3 14C5 4 8 4 9 9S13 13 15 3',
    dots: [
      [3, 14],
      [9, 9],
      [15, 3],
    ],
  },
  poles: {
    path: 'M3 14C5 2 13 16 15 4M3 14L6 4L12 14L15 4',
    dots: [],
  },
  axis: { path: 'M9 2v5M9 8.500v1M9 11v5', dots: [] },
  rectangle: {
    path: 'M3 5h12v9H3z',
    dots: [
      [3, 14],
      [15, 5],
    ],
  },
  'rectangle-about': { path: 'M3 5h12v9H3z', dots: [[9, 9.5]] },
  polygon: { path: 'M9 3l5.700 4.100-2.200 6.700H5.500L3.300 7.100z', dots: [[9, 9]] },
  slot: {
    path: 'M6 6h6a3 3 0 0 1 0 6H6a3 3 0 0 1 0-6z',
    dots: [
      [6, 9],
      [12, 9],
    ],
  },
  ellipse: { path: 'M2 9a7 4 0 1 0 14 0a7 4 0 1 0-14 0', dots: [[9, 9]] },
  elliptic: {
    path: 'M3 14A12 8 0 0 1 15 6',
    dots: [
      [15, 14],
      [3, 14],
      [15, 6],
    ],
  },
  circle3: {
    path: 'M15 9A6 6 0 1 1 3 9A6 6 0 1 1 15 9',
    dots: [
      [3, 9],
      [9, 3],
      [15, 9],
    ],
  },
  trim: { path: 'M4 3v12M14 3v12M4 9h3M11 9h3', dots: [] },
  extend: { path: 'M15 3v12M3 9h6M10 9h1M12 9h1', dots: [[9, 9]] },
  break: { path: 'M3 9h4M11 9h4M9 3v4M9 11v4', dots: [[9, 9]] },
}

/** The bar of tools; it stands still while something is dragged. */
export const TableTools = memo(Bar, (_before, now) => now.still)

function Bar({
  tool,
  enabled,
  grid,
  comb,
  onComb,
  onGrid,
  onFit,
  step,
}: {
  tool: DrawingState
  enabled: boolean
  grid: boolean
  comb: number
  onComb(scale: number): void
  onGrid(): void
  onFit(): void
  step: number
  still: boolean
}) {
  const [text, setText] = useState('')
  const enter = () => {
    const spot = typedSpot(text, tool.last)
    if (typeof spot === 'string') toast.error(spot)
    else {
      tool.place({ at: spot })
      setText('')
    }
  }
  return (
    <div
      role="toolbar"
      aria-label="Drafting tools"
      className="absolute top-2 left-2 flex max-w-[calc(100%-1rem)] flex-wrap items-center rounded-sm border border-rule bg-sheet/95 p-0.5"
      onPointerDown={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      {enabled &&
        Object.entries(MARKS).map(([id, m]) => (
          <IconButton
            key={id}
            label={TOOL_LABELS[id as Tool]}
            hint={keycap(TOOL_KEYS[id as Tool])}
            active={tool.tool === id}
            onClick={() => tool.choose(id as Tool)}
          >
            <svg viewBox="0 0 18 18" className="size-4.5" aria-hidden="true">
              <path d={m.path} fill="none" stroke="currentColor" strokeWidth={1.4} />
              {m.dots.map(([x, y]) => (
                <circle key={`${x},${y}`} cx={x} cy={y} r={1.7} fill="currentColor" />
              ))}
            </svg>
          </IconButton>
        ))}
      {enabled && (
        <IconButton
          label="Draw as construction aid"
          active={tool.construction}
          onClick={() => tool.setConstruction(!tool.construction)}
        >
          <CircleDashed size={16} />
        </IconButton>
      )}
      {enabled && (
        <IconButton
          label="Hold what is snapped to"
          active={tool.infer}
          onClick={() => tool.setInfer(!tool.infer)}
        >
          <Link2 size={16} />
        </IconButton>
      )}
      {enabled && (
        <IconButton
          label="Curvature comb of the chosen curve"
          active={comb > 0}
          onClick={() => onComb(comb > 0 ? 0 : 200)}
        >
          <Rainbow size={16} />
        </IconButton>
      )}
      {enabled && comb > 0 && (
        <input
          type="range"
          aria-label="Length of the comb"
          className="w-20 accent-brass"
          min={20}
          max={1500}
          step={20}
          value={comb}
          onChange={(e) => onComb(Number(e.target.value))}
        />
      )}
      <IconButton label={`Grid of ${step} mm`} hint="G" active={grid} onClick={onGrid}>
        <Grid2x2 size={16} />
      </IconButton>
      <IconButton label="Fit the table" hint="Shift F" onClick={onFit}>
        <Maximize size={16} />
      </IconButton>
      {enabled && tool.tool !== 'select' && (
        <>
          <input
            aria-label="Type a place"
            className="figures w-36 rounded-sm border border-rule bg-sheet px-1.5 py-0.5"
            placeholder="r z, +r +z, l < a"
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter' && text.trim()) enter()
              else if (e.key === 'Enter') tool.finish()
              if (e.key === 'Escape') tool.choose('select')
            }}
          />
          {tool.tool === 'polygon' && (
            <input
              aria-label="Sides"
              type="number"
              min={3}
              max={200}
              className="figures w-14 rounded-sm border border-rule bg-sheet px-1"
              value={tool.sides}
              onChange={(e) => tool.setSides(Math.round(Number(e.target.value)))}
              onKeyDown={(e) => e.stopPropagation()}
            />
          )}
          {tool.placed > 0 && (
            <button type="button" className="px-2 text-brass text-sm" onClick={tool.finish}>
              End (Enter)
            </button>
          )}
        </>
      )}
    </div>
  )
}
