import { edgeKey, edgesOf } from '@ivory/core/cage'
import { placeAt } from '@ivory/core/math'
import type { ShownCage } from '@ivory/core/ops'
import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, DoubleSide, ShapeUtils, Vector2 } from 'three'
import { pickedPoints, useCage } from '../../session/caging'
import { useSession } from '../../session/session'
import { useDisposed } from '../disposed'
import { Dots } from '../drawn/PathLine'
import { geometryAt, UNTOUCHED } from '../geometry'
import { Axes } from './Axes'
import { CageHandle } from './CageHandle'
import { LaidGaps } from './LaidGaps'
import { LiveWall } from './LiveWall'
import { useCagePointer } from './pointer'

const NONE: string[] = []

/** The chosen cage: its symmetry, its faces faint or firm, its edges, what is picked of it, and the caliper that moves that. */
export function CageView() {
  const chosen = useCage()
  if (!chosen) return null
  const { turns = 1, mirrors = NONE } = chosen.op.inputs as { turns?: number; mirrors?: string[] }
  return (
    <>
      <Shown cage={chosen.cage} />
      <LaidGaps />
      <LiveWall />
      <Axes cage={chosen.cage} turns={turns} mirrors={mirrors} />
    </>
  )
}

function Shown({ cage }: { cage: ShownCage }) {
  const { what, picks, smooth } = useSession((s) => s.caging)
  const { invalidate } = useThree()
  const over = useCagePointer(cage)

  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn follows these
  useEffect(() => invalidate(), [cage, over, picks, smooth, what])

  const edges = useMemo(() => [...edgesOf(cage.faces).values()], [cage])
  return (
    <>
      <Lines cage={cage} edges={edges} />
      <Faces cage={cage} words={null} color="#e9dfc6" opacity={0.85 * (1 - smooth)} />
      <Dots at={cage.free.map((p) => placeAt(cage.at, p))} color="#3f6472" size={8} />
      {what === 'points' && <Dots at={all(cage)} color="#6f5d38" size={4} />}
      <Marked cage={cage} edges={edges} words={over ? [over] : []} color="#c98a1c" />
      <Marked cage={cage} edges={edges} words={picks} color="#9a5b00" />
      <CageHandle />
    </>
  )
}

const all = (cage: ShownCage) => cage.points.map((_, p) => placeAt(cage.at, p))

/** The edges, sharp ones darker. */
function Lines({ cage, edges }: { cage: ShownCage; edges: readonly [number, number][] }) {
  const [plain, sharp] = useMemo(() => {
    const creased = new Set(cage.creases.map(({ a, b }) => edgeKey(a, b)))
    const of = (want: boolean) =>
      geometryAt(
        edges.flatMap(([p, q]) =>
          creased.has(edgeKey(p, q)) === want
            ? [...placeAt(cage.at, p), ...placeAt(cage.at, q)]
            : [],
        ),
      )
    return [of(false), of(true)]
  }, [cage, edges])
  return (
    <>
      <lineSegments geometry={useDisposed(plain)} renderOrder={3} {...UNTOUCHED}>
        <lineBasicMaterial color="#6f5d38" transparent opacity={0.55} />
      </lineSegments>
      <lineSegments geometry={useDisposed(sharp)} renderOrder={4} {...UNTOUCHED}>
        <lineBasicMaterial color="#8f2f1c" />
      </lineSegments>
    </>
  )
}

/** Faces of a cage as flat pieces: those named, or all. */
function Faces({
  cage,
  words,
  color,
  opacity,
}: {
  cage: ShownCage
  words: readonly string[] | null
  color: string
  opacity: number
}) {
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(Float32Array.from(cage.at), 3))
    const wanted = words && new Set(words)
    g.setIndex(
      cage.faces.flatMap((f) => (!wanted || wanted.has(f.name) ? triangles(cage, f.corners) : [])),
    )
    return g
  }, [cage, words])
  const geometry = useDisposed(made)
  if (opacity < 0.02) return null
  return (
    <mesh geometry={geometry} renderOrder={2} {...UNTOUCHED}>
      <meshBasicMaterial
        color={color}
        transparent
        opacity={opacity}
        side={DoubleSide}
        depthWrite={opacity > 0.6}
        polygonOffset
        polygonOffsetFactor={1}
        polygonOffsetUnits={1}
      />
    </mesh>
  )
}

/** A face in triangles, seen along its normal. */
function triangles(cage: ShownCage, corners: readonly number[]): number[] {
  if (corners.length === 4) {
    const [a, b, c, d] = corners as [number, number, number, number]
    return [a, b, c, a, c, d]
  }
  const places = corners.map((p) => placeAt(cage.at, p))
  const normal = [0, 1, 2].map((k) => {
    const [u, v] = [(k + 1) % 3, (k + 2) % 3]
    return places.reduce((s, p, i) => {
      const q = places[(i + 1) % places.length]!
      return s + p[u]! * q[v]! - q[u]! * p[v]!
    }, 0)
  })
  const most = [0, 1, 2].reduce((a, k) => (Math.abs(normal[k]!) > Math.abs(normal[a]!) ? k : a), 0)
  const flat = places.map((p) => new Vector2(p[(most + 1) % 3]!, p[(most + 2) % 3]!))
  return ShapeUtils.triangulateShape(flat, []).flatMap((t) => t.map((i) => corners[i]!))
}

/** What words name, lit: points, edges and faces. */
function Marked({
  cage,
  edges,
  words,
  color,
}: {
  cage: ShownCage
  edges: readonly [number, number][]
  words: readonly string[]
  color: string
}) {
  const points = useMemo(() => pickedPoints(cage, words), [cage, words])
  const lines = useMemo(() => {
    const own = new Set(points)
    const lit = words.some(
      (w) => w === 'all' || w.includes('~') || w.startsWith('row ') || w.startsWith('column '),
    )
    return geometryAt(
      lit
        ? edges.flatMap(([p, q]) =>
            own.has(p) && own.has(q) ? [...placeAt(cage.at, p), ...placeAt(cage.at, q)] : [],
          )
        : [],
    )
  }, [cage, edges, points, words])
  const geometry = useDisposed(lines)
  if (words.length === 0) return null
  const faces = words.some((w) => cage.faces.some((f) => f.name === w))
  return (
    <>
      {faces && <Faces cage={cage} words={words} color={color} opacity={0.45} />}
      <lineSegments geometry={geometry} renderOrder={5} {...UNTOUCHED}>
        <lineBasicMaterial color={color} depthTest={false} />
      </lineSegments>
      {!faces && <Dots at={points.map((p) => placeAt(cage.at, p))} color={color} size={9} />}
    </>
  )
}
