import { OrbitControls, OrthographicCamera, PerspectiveCamera } from '@react-three/drei'
import { Canvas, useThree } from '@react-three/fiber'
import { Slider } from 'radix-ui'
import { useEffect, useMemo, useRef, useState } from 'react'
import {
  Box3,
  type OrthographicCamera as Ortho,
  type PerspectiveCamera as Persp,
  Sphere,
  Vector3,
} from 'three'
import { usePickBody } from '../bench/picking'
import type { BodyView } from '../engine'
import { useInPlace } from '../session/ghost'
import { preview, settle, useSession } from '../session/session'
import { BodyMesh } from './bodies/BodyMesh'
import { DraftSkins } from './bodies/DraftSkin'
import { Ghost } from './bodies/Ghost'
import { LookPanel } from './bodies/LookPanel'
import { LinesPanel, SurfaceLines, useLines } from './bodies/SurfaceLines'
import { useWalls, WallLegend, WallMarks } from './bodies/Walls'
import { CageView } from './cage/CageView'
import { Loop } from './cage/Loop'
import { Datums } from './drawn/Datums'
import { Dots, pathBounds } from './drawn/PathLine'
import { Tracer } from './drawn/Tracer'
import { ChartMark } from './marks/ChartMark'
import { CutFrame } from './marks/CutFrame'
import { Measures } from './marks/Measures'
import { Notes } from './marks/Notes'
import { PinLayer } from './marks/Pin'
import { Places } from './marks/Places'
import { Threads } from './marks/Threads'
import { setSnapshotSource } from './pictures/snapshot'
import { StageButtons } from './StageButtons'
import { VIEWS } from './views'

const NONE: BodyView[] = []

export default function Stage() {
  const settled = useSession((s) => s.settled?.bodies ?? NONE)
  const inPlace = useInPlace()
  const solids = inPlace ?? settled
  const datums = useSession((s) => s.settled?.datums)
  const selected = useSession((s) => s.selected)
  const cutaway = useSession((s) => s.cutaway)
  const parallel = useSession((s) => s.parallel)
  const fill = useSession((s) => s.fill)
  const picking = useSession((s) => s.picking)
  const pickBody = usePickBody()
  const { walls, reading } = useWalls()
  const { lines, reading: readingLines } = useLines()
  const docId = useSession((s) => s.doc?.id)
  const making = useSession((s) => (s.settled?.waits ?? 0) > 0)
  const failing = useSession((s) => s.settled?.reports.find((r) => r.status === 'fail'))
  const drafts = useSession((s) => s.view?.reports)
  const lined = useSession((s) => s.lines !== null)
  const wallMap = useSession((s) => s.wallMap)
  const lens = useSession((s) => s.reading)
  const pointed = useSession((s) => s.pointed)
  const cut = useSession((s) => s.cut)
  const marked = useSession((s) => s.marked)
  const litOp = useSession((s) => s.litOp)
  const tracing = useSession((s) => s.tracing)
  const [look, setLook] = useState<{ name: string; n: number }>({ name: 'corner', n: 0 })
  // What an op makes is seen while its faces or edges are picked on the ghost of what was before.
  const bodies = useMemo(() => (pickBody ? [...solids, pickBody] : solids), [solids, pickBody])

  useEffect(() => {
    const go = (e: Event) =>
      setLook((l) => {
        const { detail } = e as CustomEvent<string>
        return { name: detail === 'fit' ? l.name : detail, n: l.n + 1 }
      })
    window.addEventListener('stage-view', go)
    return () => window.removeEventListener('stage-view', go)
  }, [])

  return (
    <section
      aria-label="Stage"
      data-theme="light"
      className="relative h-full bg-[radial-gradient(ellipse_at_50%_30%,#fbf8ef,#ece4d1)]"
    >
      <Canvas
        frameloop="demand"
        gl={{ preserveDrawingBuffer: true, antialias: true }}
        dpr={[1, 2]}
        onCreated={({ gl }) => {
          gl.localClippingEnabled = true
        }}
        onPointerMissed={() => useSession.setState({ hover: '' })}
      >
        {parallel ? (
          <OrthographicCamera makeDefault up={[0, 0, 1]} near={-5000} far={5000} />
        ) : (
          <PerspectiveCamera makeDefault up={[0, 0, 1]} fov={30} near={1} far={10000} />
        )}
        <hemisphereLight args={['#fffaf0', '#b8a98a', 1.5]} />
        <directionalLight position={[-200, -400, 500]} intensity={1.7} />
        <directionalLight position={[400, 200, 200]} intensity={0.5} />
        {bodies.map(
          (b) =>
            b.mesh && (
              <BodyMesh
                key={b === pickBody ? 'ghost' : b.id}
                body={b}
                mesh={b.mesh}
                ghost={b === pickBody}
                pick={picking && b === pickBody ? picking : null}
                walls={(b !== pickBody && walls.find((w) => w.body === b.id)) || null}
              />
            ),
        )}
        <WallMarks walls={walls} />
        {lines.map((l) => (
          <SurfaceLines key={l.body} line={l} />
        ))}
        <Measures />
        <ChartMark bodies={bodies} />
        <CutFrame bodies={bodies} />
        <Places bodies={bodies} />
        <Notes bodies={solids} />
        <Datums bodies={bodies} />
        <Ghost />
        <DraftSkins />
        <Threads />
        <CageView />
        <Tracer />
        {pointed && <Dots at={[pointed]} color="#9a5b00" size={14} />}
        <OrbitControls makeDefault enableDamping={false} />
        <Framing
          key={`${docId} ${parallel}`}
          look={look}
          empty={bodies.length === 0}
          bodies={[
            ...bodies.filter((b) => !b.hidden && !b.away).map((b) => b.bounds),
            ...pathBounds(datums ?? []),
          ]}
        />
        <Redraw
          on={[
            bodies,
            datums,
            tracing,
            selected,
            picking,
            cutaway,
            fill,
            walls,
            lines,
            drafts,
            cut,
            marked,
            litOp,
            lens,
            pointed,
          ]}
        />
      </Canvas>
      <Loop />
      <PinLayer />
      <StageButtons onFit={() => setLook((l) => ({ ...l, n: l.n + 1 }))} />
      <fieldset className="absolute bottom-2 left-2 flex gap-1 text-sm">
        <legend className="sr-only">Standard views</legend>
        {Object.keys(VIEWS).map((name) => (
          <button
            key={name}
            type="button"
            className="rounded-sm border border-rule bg-sheet/90 px-2 py-0.5 text-soft hover:border-brass hover:text-ink"
            onClick={() => setLook((l) => ({ name, n: l.n + 1 }))}
          >
            {name}
          </button>
        ))}
      </fieldset>
      {lens && <LookPanel reading={lens} />}
      {lined && <LinesPanel reading={readingLines} none={lines.length === 0} />}
      {wallMap && <WallLegend walls={walls} reading={reading} />}
      {fill !== null && <FillSlider fill={fill} />}
      {bodies.length === 0 &&
        !datums?.some((d) => d.kind === 'path') &&
        !tracing &&
        !making &&
        !failing?.shown && (
          <p className="pointer-events-none absolute inset-0 grid place-items-center p-10 text-center text-soft">
            {failing
              ? 'No body: an op fails. Its sheet says why, and where.'
              : 'No body yet. Draw half an outline beside the axis on the table below, then turn it.'}
          </p>
        )}
    </section>
  )
}

/** Shows the level and has the fill gauge, if there is one, read at it. */
function fillTo(percent: number) {
  useSession.setState({ fill: percent / 100 })
  preview((d) => {
    for (const g of d.gauges) if (g.kind === 'fill') g.params.share = percent
  })
}

function FillSlider({ fill }: { fill: number }) {
  return (
    <div className="absolute top-14 bottom-14 left-3 flex flex-col items-center gap-2">
      <span className="figures rounded-sm bg-sheet/90 px-1">{Math.round(fill * 100)} %</span>
      <Slider.Root
        orientation="vertical"
        className="relative flex h-full w-5 touch-none select-none justify-center"
        min={0}
        max={100}
        step={1}
        value={[Math.round(fill * 100)]}
        onValueChange={([v]) => fillTo(v ?? 0)}
        onValueCommit={settle}
      >
        <Slider.Track className="relative h-full w-1.5 rounded-full bg-rule">
          <Slider.Range className="absolute w-full rounded-full bg-brass" />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Fill level, per cent of the brim"
          className="block h-3 w-5 rounded-sm border border-brass bg-sheet shadow-sm"
        />
      </Slider.Root>
    </div>
  )
}

/** Draws a frame when any of the values changes (the canvas draws on demand only). */
function Redraw({ on }: { on: unknown[] }) {
  const invalidate = useThree((s) => s.invalidate)
  const gl = useThree((s) => s.gl)
  useEffect(() => {
    setSnapshotSource(gl.domElement)
    return () => setSnapshotSource(null)
  }, [gl])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the list of values is the point
  useEffect(() => invalidate(), on)
  return null
}

/** Puts the camera where all bodies are in view, when asked and when the first body appears. */
function Framing({
  look,
  bodies,
  empty,
}: {
  look: { name: string; n: number }
  bodies: { min: readonly number[]; max: readonly number[] }[]
  empty: boolean
}) {
  const camera = useThree((s) => s.camera) as Persp | Ortho
  const controls = useThree((s) => s.controls) as { target: Vector3; update(): void } | null
  const size = useThree((s) => s.size)
  const invalidate = useThree((s) => s.invalidate)
  const latest = useRef(bodies)
  latest.current = bodies
  // Where an op fails its body is gone for a while: the view stays for when it is there again.
  const begun = useRef(false)
  begun.current ||= !empty
  const first = begun.current
  // biome-ignore lint/correctness/useExhaustiveDependencies: `look` and the first body are the triggers
  useEffect(() => {
    if (!controls) return
    const box = new Box3()
    for (const b of latest.current) {
      box.expandByPoint(new Vector3(...(b.min as [number, number, number])))
      box.expandByPoint(new Vector3(...(b.max as [number, number, number])))
    }
    const ball = box.isEmpty()
      ? new Sphere(new Vector3(0, 0, 40), 80)
      : box.getBoundingSphere(new Sphere())
    const from = new Vector3(...(VIEWS[look.name] ?? VIEWS.corner!)).normalize()
    if ('fov' in camera) {
      const half = (camera.fov * Math.PI) / 360
      const fit = Math.min(1, size.width / size.height)
      camera.position
        .copy(ball.center)
        .addScaledVector(from, (ball.radius * 1.08) / Math.sin(half) / fit)
    } else {
      camera.position.copy(ball.center).addScaledVector(from, ball.radius * 4)
      camera.zoom = Math.min(size.width, size.height) / (2.2 * ball.radius)
    }
    camera.updateProjectionMatrix()
    controls.target.copy(ball.center)
    controls.update()
    invalidate()
  }, [look, first, controls, camera, invalidate, size.width > 0])
  return null
}
