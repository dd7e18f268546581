import type { P2 } from '@ivory/core/math'
import { fixed, rounded } from '@ivory/core/math'
import { type Drawing, emptyDrawing } from '@ivory/core/profile'
import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { usePickBody } from '../bench/picking'
import type { ProfileView } from '../engine'
import {
  drawingOf,
  opOf,
  preview,
  setInputs,
  settle,
  tablePlane,
  tableProfile,
  useSelectedOp,
  useSession,
} from '../session/session'
import { CutTools } from './CutTools'
import { Dimensions } from './dimensions/Dimensions'
import { movePoints, removeFrom } from './drawing/edits'
import { draggedDrawing, held } from './drawing/holding'
import { reshapeProfile } from './drawing/reshaping'
import { gridStep, type Snap, snapTo } from './drawing/snap'
import { type CutTool, isCut, useDrawing } from './drawing/useDrawing'
import { isFree, type Pull, usePull } from './drawing/usePull'
import { AreaLayer } from './layers/AreaLayer'
import { GhostSection } from './layers/GhostSection'
import { Grid } from './layers/Grid'
import { HoldLayer } from './layers/HoldLayer'
import { PictureLayer } from './layers/PictureLayer'
import { ProfileLayer } from './layers/ProfileLayer'
import { PullTag } from './layers/PullTag'
import { RingLayer } from './layers/RingLayer'
import { SectionLayer } from './layers/SectionLayer'
import { TableTools } from './TableTools'
import { useCanvasView } from './useCanvasView'

const empty = emptyDrawing()

/** A drag of points, or of the tip of a handle. */
interface Grab {
  from: P2
  moved?: boolean
  ids: string[]
  base: Drawing
  /** The profile as shown when the drag began. */
  shown?: ProfileView | undefined
  tip?: { entity: string; i: number }
  pull?: Pull
}
/** The 2D view. `shaping` is off in stages in which nothing is drawn. */
export function DraftingTable({ shaping }: { shaping: boolean }) {
  const box = useRef<HTMLElement>(null)
  const canvas = useCanvasView(box)
  const op = useSelectedOp()
  const view = useSession((s) => s.view)
  const drawn = useSession((s) => s.drawn)
  const pickBody = usePickBody()
  const isProfile = shaping && op?.kind === 'profile'
  const showsAreas = useSession((s) => op?.kind === 'extrude' || s.choosing?.op === op?.id)
  const drawing = isProfile ? drawingOf(op) : empty
  const shownId = useSession(tableProfile)
  const profile = view?.profiles.find((p) => p.id === shownId)
  const shownPlane = useSession(tablePlane)
  const frame = profile?.frame ?? shownPlane
  useEffect(() => useSession.setState({ shaping }), [shaping])
  const points = profile?.points ?? {}
  const dragging = useSession((s) => s.dragFrom !== null)
  const [gridOn, setGridOn] = useState(true)
  const [comb, setComb] = useState(0)
  const [snap, setSnap] = useState<Snap | null>(null)
  const drag = useRef<Grab | { pan: P2 } | null>(null)
  const pull = usePull(op?.id ?? '')
  const put = useCallback((d: Drawing) => op && setInputs(op.id, { drawing: d }), [op])
  const tool = useDrawing({ op: op?.id ?? '', drawing, points, put, enabled: isProfile })
  const step = gridStep(canvas.view.scale, 14)

  const extent = useMemo(() => {
    const of = (v: typeof view): P2[] => [
      ...(v?.bodies.flatMap((b) => b.section.flatMap((s) => s.points)) ?? []),
      ...(v?.profiles.flatMap((p) => Object.values(p.points)) ?? []),
    ]
    return of(view)
  }, [view])
  const fitted = useRef('')
  const docId = useSession((s) => s.doc?.id ?? '')
  // The view fits itself when a workpiece is opened, and from then on only when asked.
  useEffect(() => {
    if (canvas.size.w === 0 || !view || fitted.current === docId) return
    fitted.current = docId
    canvas.fit(extent)
  }, [canvas, extent, docId, view])

  useHotkeys('g', () => setGridOn((g) => !g))
  useHotkeys('shift+f', () => canvas.fit(extent))
  useHotkeys(['delete', 'backspace'], () => {
    const { drawn: sel } = useSession.getState()
    if (isProfile && (sel.entities.length > 0 || sel.points.length > 0)) {
      put(removeFrom(drawing, sel.entities, sel.points))
      useSession.setState({ drawn: { points: [], entities: [] } })
    }
  })

  // Measured where a drag begins: asking the page anew with every step would lay it out each time.
  const corner = useRef<DOMRect | null>(null)
  const local = (e: PointerEvent): P2 => {
    if (!drag.current || !corner.current) corner.current = box.current!.getBoundingClientRect()
    const r = corner.current
    return canvas.toPlane([e.clientX - r.left, e.clientY - r.top])
  }
  const snapped = (e: PointerEvent, at = local(e), without: string[] = []): Snap =>
    snapTo(at, {
      points: Object.fromEntries(Object.entries(points).filter(([id]) => !without.includes(id))),
      last: tool.last,
      reach: e.altKey ? 0 : 8 * canvas.view.scale,
      grid: gridOn && !e.altKey ? step : 0,
    })

  const startPoint = (e: PointerEvent, id: string) => {
    if (tool.tool !== 'select') return
    e.stopPropagation()
    const chosen = e.shiftKey
      ? [...new Set([...drawn.points, id])]
      : drawn.points.includes(id)
        ? drawn.points
        : [id]
    useSession.setState({
      drawn: { points: chosen, entities: e.shiftKey ? drawn.entities : [] },
    })
    const begun: Grab = { from: local(e), ids: chosen, base: drawing, shown: profile }
    drag.current = begun
    box.current!.setPointerCapture(e.pointerId)
    if (chosen.length === 1 && profile && !isFree(drawing, profile, id)) begun.pull = pull.begin(id)
  }
  const startTip = (e: PointerEvent, entity: string, i: number) => {
    e.stopPropagation()
    drag.current = { from: local(e), ids: [], base: drawing, tip: { entity, i } }
    box.current!.setPointerCapture(e.pointerId)
  }
  const down = (e: PointerEvent<HTMLElement>) => {
    pull.clear()
    if (e.button === 1 || (e.button === 0 && (tool.tool === 'select' || !isProfile))) {
      drag.current = { pan: [e.clientX, e.clientY] }
      e.currentTarget.setPointerCapture(e.pointerId)
      if (e.button === 0 && isProfile) useSession.setState({ drawn: { points: [], entities: [] } })
      return
    }
    if (e.button === 0) tool.place(snapped(e))
  }
  // The newest place of the pointer counts once a frame.
  const waiting = useRef<PointerEvent<HTMLElement> | null>(null)
  const move = (e: PointerEvent<HTMLElement>) => {
    // A drag is the table's own: nothing else on the page need look where the pointer is.
    if (drag.current) e.preventDefault()
    if (!waiting.current) requestAnimationFrame(flush)
    waiting.current = e
  }
  const flush = () => {
    const e = waiting.current
    waiting.current = null
    if (e && box.current) follow(e)
  }
  const follow = (e: PointerEvent<HTMLElement>) => {
    const d = drag.current
    const at = local(e)
    // A click is no drag: nothing moves before the pointer has.
    if (d && !('pan' in d) && !d.moved) {
      const [x, y] = canvas.toScreen(d.from)
      const [u, v] = canvas.toScreen(at)
      if (Math.hypot(u - x, v - y) < 3) return
      d.moved = true
    }
    if (d && 'pan' in d) {
      canvas.pan(e.clientX - d.pan[0], e.clientY - d.pan[1])
      drag.current = { pan: [e.clientX, e.clientY] }
      return
    }
    if (d?.tip && op) {
      dragTip(op.id, d.base, d.tip, points, at)
      return
    }
    if (d && op) {
      if (d.pull) {
        // By as much as the pointer has gone: the number has steps of its own.
        pull.follow(d.pull, [at[0] - d.from[0], at[1] - d.from[1]], canvas.toScreen(at))
        return
      }
      const to = d.ids.length === 1 ? snapped(e, at, d.ids).at : at
      const start = d.ids.length === 1 ? (d.shown?.points[d.ids[0]!] ?? d.from) : d.from
      const step: P2 = [to[0] - start[0], to[1] - start[1]]
      const moved =
        d.shown && held(d.base)
          ? dragHeld(d.base, d.shown, d.ids, step)
          : movePoints(d.base, d.base, d.ids, step)
      if (!moved) return
      preview((draft) => {
        const target = draft.route.find((o) => o.id === op.id)
        if (target) target.inputs.drawing = moved
      })
      return
    }
    const s = snapped(e, at)
    setSnap(tool.tool === 'select' ? null : s)
    tool.hover(s)
    useSession.setState({
      hover: `⌀ ${fixed(2 * Math.abs(s.at[0]), 2)}, height ${fixed(s.at[1], 2)}${s.to && tool.tool !== 'select' ? `, ${s.to}` : ''}`,
    })
  }
  const up = () => {
    flush()
    const d = drag.current
    drag.current = null
    if (!d || 'pan' in d) return
    settle()
    if (d.pull) pull.end(d.pull)
  }

  return (
    <section
      ref={box}
      aria-label="Drafting table"
      data-theme="light"
      className="relative h-full touch-none select-none overflow-hidden bg-sheet"
      style={{ cursor: tool.tool === 'select' ? 'default' : 'crosshair' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerLeave={() => setSnap(null)}
      onDoubleClick={() => tool.finish()}
    >
      <svg width="100%" height="100%" aria-hidden="true" className="absolute inset-0">
        <Grid canvas={canvas} step={gridOn ? step : 0} />
        {isProfile && <PictureLayer op={op} canvas={canvas} />}
        <SectionLayer canvas={canvas} frame={frame} pickBody={pickBody} />
        <GhostSection canvas={canvas} frame={frame} />
        {shaping && op && showsAreas && profile && <AreaLayer op={op} canvas={canvas} />}
        <ProfileLayer
          canvas={canvas}
          profileId={shownId}
          still={!isProfile}
          drawing={isProfile ? drawing : shownDrawing(shownId)}
          pending={tool.preview}
          snap={snap}
          onPoint={startPoint}
          onTip={startTip}
          selecting={tool.tool === 'select'}
          onCut={
            isCut(tool.tool) && isProfile
              ? (e, piece) => {
                  e.stopPropagation()
                  void reshapeProfile(op.id, { do: tool.tool as CutTool, piece, at: local(e) })
                }
              : undefined
          }
          holding={tool.infer}
          comb={comb}
        />
      </svg>
      {isProfile && profile && (
        <HoldLayer canvas={canvas} op={op.id} drawing={drawing} profile={profile} />
      )}
      {isProfile && !held(drawing) && (
        <Dimensions canvas={canvas} op={op.id} drawing={drawing} points={points} />
      )}
      {pull.pulling && <PullTag pulling={pull.pulling} onOther={pull.instead} />}
      <TableTools
        tool={tool}
        enabled={isProfile}
        grid={gridOn}
        comb={comb}
        onComb={setComb}
        onGrid={() => setGridOn((g) => !g)}
        onFit={() => canvas.fit(extent)}
        step={step}
        still={dragging}
      />
      {shaping && !profile && frame && <RingLayer canvas={canvas} frame={frame} />}
      {!profile && <CutTools />}
      {isProfile && drawing.entities.length === 0 && (
        <p className="pointer-events-none absolute inset-x-0 bottom-3 text-center text-soft">
          Draw half the outline to the right of the axis: N for lines, F for a curve through points.
          Type places as
          <span className="figures"> 40 25</span>.
        </p>
      )}
    </section>
  )
}

const shownDrawing = (id: string | null): Drawing => drawingOf(opOf(useSession.getState().doc, id))

/** Points that relations hold move as far as those let them. */
const dragHeld = (base: Drawing, shown: ProfileView, ids: string[], step: P2): Drawing | null =>
  draggedDrawing(
    base,
    shown,
    Object.fromEntries(
      ids.flatMap((id) => {
        const p = shown.points[id]
        return p ? [[id, [p[0] + step[0], p[1] + step[1]] as P2]] : []
      }),
    ),
  )

function dragTip(
  op: string,
  base: Drawing,
  tip: { entity: string; i: number },
  points: Record<string, P2>,
  at: P2,
) {
  preview((draft) => {
    const target = draft.route.find((o) => o.id === op)
    if (!target) return
    target.inputs.drawing = {
      ...base,
      entities: base.entities.map((e) => {
        if (e.id !== tip.entity || e.kind !== 'fit') return e
        const p = points[e.points[tip.i]!] ?? [0, 0]
        const d: [number, number] = [rounded(at[0] - p[0], 2), rounded(at[1] - p[1], 2)]
        return {
          ...e,
          handles: e.handles.map((h, k) => (k === tip.i ? { hold: 'free' as const, d } : h)),
        }
      }),
    }
  })
}
