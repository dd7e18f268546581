import { type DisplayMesh, SECTION } from '@ivory/core/turned'
import type { Workpiece } from '@ivory/core/workpiece'
import { type ThreeEvent, useThree } from '@react-three/fiber'
import { useMemo, useState } from 'react'
import { BufferAttribute, BufferGeometry, DoubleSide, type Mesh } from 'three'
import { faceName, refName } from '../../bench/names'
import {
  pickedRefs,
  sameEdge,
  sameFace,
  sameVertex,
  toggleEdge,
  toggleFace,
  toggleVertex,
} from '../../bench/picking'
import type { BodyView } from '../../engine'
import { lastMaker, makersOf } from '../../session/makers'
import { takeThing } from '../../session/measuring'
import { takeNote } from '../../session/notes'
import { NO_MAKERS, openOp, type Picking, useSession } from '../../session/session'
import { layOn } from '../../session/tracing'
import { useDisposed } from '../disposed'
import { bendsAttribute, geometryOf, leftOf, linesOf, UNTOUCHED } from '../geometry'
import { Spots } from '../marks/Spots'
import { castNear, thingUnder, type Under } from '../under'
import { useBehind } from './clip'
import { LookMaterial } from './Look'
import { type ShownWalls, WallSkin } from './Walls'

/** How much of a body's skin is seen. */
const OPACITY = { shaded: 1, clear: 0.35, edges: 0 } as const

const sameThing = (a: Under, b: Partial<Record<'face' | 'edge' | 'vertex', number>>): boolean =>
  (['face', 'edge', 'vertex'] as const).every((k) => (a as typeof b)[k] === b[k])

export function BodyMesh({
  body,
  mesh,
  pick,
  ghost,
  walls,
}: {
  body: BodyView
  mesh: DisplayMesh
  /** Shown faintly, over what has become of it. */
  ghost: boolean
  pick: Picking | null
  /** The wall all over it, shown over its own colour. */
  walls: ShownWalls | null
}) {
  const color = useSession((s) => s.doc?.bodies[body.id]?.color) ?? '#d9d2c0'
  const pickDoc = useSession((s) => (pick ? s.doc : null))
  const refs = useMemo(() => pickedRefs(pickDoc, pick) as never[], [pickDoc, pick])
  // While something is picked only the ghost takes the pointer.
  const quiet = useSession((s) => s.picking !== null) && !ghost
  const noting = useSession((s) => s.noting)
  const measuring = useSession((s) => s.measuring !== null || s.noting)
  const litOp = useSession((s) => s.litOp)
  const reading = useSession((s) => s.reading)
  // Triangles of turned bodies come cut; of others the front is clipped, save while something is picked on it.
  const clipped = useSession((s) => s.cutaway && s.picking === null) && !body.turned
  const behind = useBehind()
  const touched = useMemo(() => (clipped ? leftOf(behind[0]!) : {}), [clipped, behind])
  const clip = clipped ? { clippingPlanes: behind } : { clippingPlanes: null }
  const opacity = ghost ? 0.22 : OPACITY[body.look]
  const [over, setOver] = useState<Partial<Record<'face' | 'edge' | 'vertex', number>>>({})
  const bent = reading?.kind === 'bends' && !ghost
  const skin = useMemo(() => {
    const made = geometryOf(mesh, (f) => mesh.faces[f] !== SECTION)
    if (bent) made.geometry.setAttribute('bends', bendsAttribute(mesh))
    return made
  }, [mesh, bent])
  const cut = useMemo(() => geometryOf(mesh, (f) => mesh.faces[f] === SECTION), [mesh])
  const lines = useMemo(() => linesOf(mesh, () => true), [mesh])
  const litFaces = useMemo(() => {
    const lit = new Set<number>(over.face === undefined ? [] : [over.face])
    if (litOp && !pick)
      for (const [f, name] of mesh.faces.entries()) if (lastMaker(name) === litOp) lit.add(f)
    if (pick?.what === 'faces') {
      for (const f of body.faces) if (refs.some((r) => sameFace(r, f.ref))) lit.add(f.shown)
    }
    return geometryOf(mesh, (f) => lit.has(f))
  }, [mesh, over.face, pick, refs, body.faces, litOp])
  const laying = useSession((s) => s.tracing?.laying?.how)
  const litEdges = useMemo(() => {
    const chosen = (i: number) => {
      const found = body.edges.find((x) => x.shown === i)
      return found && refs.some((r) => sameEdge(r, found.ref))
    }
    return linesOf(mesh, (i) => i === over.edge || Boolean(pick?.what === 'edges' && chosen(i)))
  }, [mesh, over.edge, pick, refs, body.edges])
  const spots = useMemo(
    () =>
      body.vertices.filter(
        ({ ref }, i) =>
          i === over.vertex || (pick?.what === 'vertices' && refs.some((r) => sameVertex(r, ref))),
      ),
    [body.vertices, over.vertex, pick, refs],
  )
  useDisposed(skin.geometry)
  useDisposed(cut.geometry)
  useDisposed(lines)
  useDisposed(litFaces.geometry)
  useDisposed(litEdges)

  const height = useThree((s) => s.size.height)
  const near = useMemo(() => ({ raycast: castNear(height) }), [height])
  /** Over the skin, that tells which edge is near; lines themselves are asked beside it only. */
  const onSkin = (e: ThreeEvent<PointerEvent | MouseEvent>) =>
    e.intersections.some((h) => (h.object as Mesh).geometry === skin.geometry)
  const faceUnder = (e: ThreeEvent<PointerEvent | MouseEvent>) =>
    mesh.faceOf[skin.triangles[e.faceIndex ?? 0] ?? 0] ?? 0
  /** What is under the pointer: while places are measured or corners picked also edges and corners. */
  const thing = (e: ThreeEvent<PointerEvent | MouseEvent>): Under => {
    const vertices = measuring || pick?.what === 'vertices' || laying === 'three'
    const edges = measuring || pick?.what === 'edges'
    return vertices || edges
      ? thingUnder(e, body, mesh, faceUnder(e), { edges, vertices })
      : { face: faceUnder(e) }
  }
  /** What is lit is what a click takes. */
  const lit = (e: ThreeEvent<MouseEvent>): Under =>
    over.vertex !== undefined
      ? { vertex: over.vertex }
      : over.edge !== undefined
        ? { edge: over.edge }
        : { face: faceUnder(e) }
  const refOf = (under: Under) =>
    'vertex' in under
      ? // The body may have been made anew since.
        body.vertices[under.vertex]?.ref
      : 'edge' in under
        ? body.edges.find((x) => x.shown === under.edge)?.ref
        : null
  const wordOf = (doc: Workpiece, under: Under, face: number) => {
    const ref = refOf(under)
    if (!ref) return faceName(doc, mesh.faces[face]!)
    return `${'vertex' in under ? 'corner of' : 'edge between'} ${refName(doc, ref)}`
  }
  /** The chosen cage is drawn over bodies, and comes first under the pointer. */
  const belowCage = () => useSession.getState().overCage !== null && !pick && !measuring
  /** While a path is drawn over it the sheet says where the pointer is. */
  const tell = (text: string) => {
    const { tracing } = useSession.getState()
    if ((!tracing || tracing.laying) && !belowCage()) useSession.setState({ hover: text })
  }

  return (
    <group>
      <mesh
        geometry={skin.geometry}
        {...(quiet ? UNTOUCHED : touched)}
        onPointerMove={(e) => {
          e.stopPropagation()
          if (belowCage()) {
            if (Object.keys(over).length > 0) setOver({})
            return
          }
          const face = faceUnder(e)
          const under = thing(e)
          if (!sameThing(under, over)) setOver(under)
          const { doc, chart } = useSession.getState()
          if (doc) tell(`${body.name}: ${wordOf(doc, under, face)}`)
          if (face !== over.face) useSession.setState({ makers: makersOf(mesh.faces[face]!) })
          if (chart) useSession.setState({ touched: [e.point.x, e.point.y, e.point.z] })
        }}
        onPointerOut={() => {
          setOver({})
          tell('')
          useSession.setState({ makers: NO_MAKERS, touched: null })
        }}
        onDoubleClick={(e) => {
          if (pick || measuring || belowCage()) return
          e.stopPropagation()
          const maker = lastMaker(mesh.faces[faceUnder(e)]!)
          if (maker) openOp(maker)
        }}
        onClick={(e) => {
          if (laying) {
            e.stopPropagation()
            const corner = over.vertex === undefined ? null : body.vertices[over.vertex]?.at
            const n = e.normal ?? e.face?.normal
            if (n) layOn(corner ?? [e.point.x, e.point.y, e.point.z], [n.x, n.y, n.z])
            return
          }
          if (measuring) {
            e.stopPropagation()
            const ref = refOf(lit(e))
            if (noting) {
              const names = ref && 'edge' in ref ? ref.edge : [mesh.faces[faceUnder(e)]!]
              takeNote(body.id, [...names], [e.point.x, e.point.y, e.point.z])
              return
            }
            takeThing(body.id, ref ? JSON.stringify(ref) : mesh.faces[faceUnder(e)]!)
            return
          }
          if (pick?.what === 'vertices') {
            e.stopPropagation()
            const ref = refOf(lit(e))
            if (ref && 'vertex' in ref) toggleVertex(ref)
            return
          }
          if (pick?.what === 'edges') {
            e.stopPropagation()
            const ref = refOf(lit(e))
            if (ref && 'edge' in ref) toggleEdge(ref)
            return
          }
          if (pick?.what !== 'faces') return
          e.stopPropagation()
          const face = faceUnder(e)
          const found = body.faces.find((f) => f.shown === face)
          if (found) toggleFace(found.ref)
        }}
      >
        {reading && !ghost ? (
          <LookMaterial reading={reading} clip={clip} />
        ) : (
          <meshStandardMaterial
            {...clip}
            color={color}
            transparent={opacity < 1}
            opacity={opacity}
            depthWrite={opacity === 1}
            roughness={0.62}
            metalness={0.02}
            side={DoubleSide}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        )}
      </mesh>
      <mesh geometry={cut.geometry}>
        <meshBasicMaterial
          color="#e8cf94"
          side={DoubleSide}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      <mesh geometry={litFaces.geometry} renderOrder={1}>
        <meshStandardMaterial
          {...clip}
          color="#d9a441"
          roughness={0.6}
          transparent
          opacity={0.75}
          side={DoubleSide}
        />
      </mesh>
      <lineSegments
        geometry={lines}
        {...(quiet ? UNTOUCHED : near)}
        onPointerMove={(e) => {
          if (pick?.what !== 'edges' || onSkin(e)) return
          e.stopPropagation()
          const edge = mesh.edgeOf[Math.floor((e.index ?? 0) / 2)]!
          if (edge !== over.edge) setOver({ edge })
          const names = mesh.edges[edge]!.names
          const { doc } = useSession.getState()
          if (doc) tell(`edge between ${faceName(doc, names[0])} and ${faceName(doc, names[1])}`)
        }}
        onPointerOut={() => {
          if (pick?.what !== 'edges') return
          setOver({})
          tell('')
        }}
        onClick={(e) => {
          if (pick?.what !== 'edges' || onSkin(e)) return
          e.stopPropagation()
          const edge = mesh.edgeOf[Math.floor((e.index ?? 0) / 2)]!
          const found = body.edges.find((x) => x.shown === edge)
          if (found) toggleEdge(found.ref)
        }}
      >
        <lineBasicMaterial {...clip} color="#4a4033" transparent opacity={0.8} />
      </lineSegments>
      <lineSegments geometry={litEdges} renderOrder={2}>
        <lineBasicMaterial {...clip} color="#8a4b00" depthTest={false} linewidth={3} />
      </lineSegments>
      {spots.length > 0 && <Spots at={spots.map((v) => v.at)} clip={clip} />}
      {clipped && body.cap && <Cap triangles={body.cap} />}
      {walls && <WallSkin walls={walls} clip={clip} />}
      {body.liquid && <Liquid mesh={body.liquid} />}
    </group>
  )
}

/** Closes a body where it is cut away, in the colour of a section. */
function Cap({ triangles }: { triangles: Float32Array }) {
  const made = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(triangles, 3))
    return g
  }, [triangles])
  const geometry = useDisposed(made)
  return (
    <mesh geometry={geometry} {...UNTOUCHED} renderOrder={1}>
      <meshBasicMaterial color="#e8cf94" side={DoubleSide} />
    </mesh>
  )
}

function Liquid({ mesh }: { mesh: DisplayMesh }) {
  const all = useMemo(() => geometryOf(mesh, () => true), [mesh])
  useDisposed(all.geometry)
  return (
    <mesh geometry={all.geometry} renderOrder={3}>
      <meshStandardMaterial
        color="#5b8f86"
        transparent
        opacity={0.5}
        roughness={0.15}
        side={DoubleSide}
        depthWrite={false}
      />
    </mesh>
  )
}
