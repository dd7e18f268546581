import type { WireCurve } from '../../kernel'
import { add3, bad, dot3, type Frame, good, type P3, placeAt, scale3, sub3 } from '../../math'
import { soundVolume } from '../accept'
import { namesFrom, putAbout } from '../names'
import { SHOWN } from '../part'
import { type Bench, keepMade, type Named, type NamedMesh, type Verb } from './verb'

/** Curves that follow each other, swept along a way, and the name of the face each makes. */
export interface Sheet {
  chain: WireCurve[]
  names: string[]
  /** mm */
  way: P3
}

export interface PartArgs {
  op: string
  planes: Frame[]
  sheets?: Sheet[]
  /** Numbers of faces of the second body, which part as they are, each as `o5:by(name)`. */
  faces?: number[]
}

/** A body parted by planes, sheets and faces of another; the parts in the order of the planes' sides, those in front last. */
export const partVerb: Verb<PartArgs> = {
  version: 4,
  run(bench, on, { op, planes, sheets = [], faces = [] }) {
    const { kernel } = bench
    const [target, holder] = on
    const whole = kernel.measure(target!.shape).volume
    const tools = [
      ...squares(bench, target!, planes, op),
      ...sheets.map((x) => swept(bench, x, op)),
      ...(faces.length > 0 ? [taken(bench, holder!, faces, op)] : []),
    ]
    const made = keepMade(
      bench,
      kernel.part(
        target!.shape,
        tools.map((t) => t.shape),
      ),
    )
    const names = namesFrom(made.origins, [target!.names, ...tools.map((t) => t.names)], op)
    const parts = kernel.solidFaces(made.shape).map(({ solid, faces }) => ({
      shape: bench.keep(solid),
      names: faces.map((f) => names[f]!),
    }))
    if (parts.length < 2) {
      const through = planes.find((f) => goesThrough(bench, target!, f))
      return bad(
        'misses',
        through
          ? 'The kernel does not part the body although the plane goes through it. Move the plane a little.'
          : faces.length > 0
            ? 'The faces do not go right through the body.'
            : sheets.length === 0
              ? 'The plane does not go through the body.'
              : 'The curve does not go right across the body, or misses it.',
      )
    }
    const ends = deadEnd(parts, `${op}:by(`)
    if (ends) return ends
    let sum = 0
    for (const p of parts) {
      const volume = soundVolume(kernel, p.shape, 'A part')
      if (!volume.ok) return volume
      sum += volume.value
    }
    if (Math.abs(sum / whole - 1) > 1e-6)
      return bad('not-right', 'The parts do not make up the whole, so they are not used.')
    const side = (p: Named) => {
      const c = kernel.measure(p.shape).centroid
      return planes.map((f) => (dot3(sub3(c, f.origin), f.z) > 0 ? 1 : 0)).join('')
    }
    const sorted = parts.map((p) => ({ p, side: side(p) }))
    sorted.sort((a, b) => (a.side < b.side ? -1 : a.side > b.side ? 1 : 0))
    return good(sorted.map((x) => x.p))
  },
  onMeshes({ meshes }, [target], { op, planes, sheets = [], faces = [] }) {
    if (sheets.length + faces.length > 0)
      return bad('needs-surfaces', 'Triangles are parted by planes and closed outlines only.')
    // Each plane parts what the ones before it left; what lies behind it comes before what lies in front.
    let parts: NamedMesh[] = [target!]
    for (const [i, f] of planes.entries()) {
      const cut = planes.length > 1 ? `${op}:cut${i + 1}` : `${op}:cut`
      parts = parts.flatMap((p) => {
        const [front, behind] = meshes.cutAt(p.mesh, f.z, dot3(f.origin, f.z))
        return [behind, front].flatMap(({ mesh, from }) =>
          mesh.triangles.length === 0
            ? []
            : [{ mesh, names: from.map((x) => (x ? (p.names[x.face] ?? []) : [cut])) }],
        )
      })
    }
    return parts.length < 2 ? bad('misses', 'The plane does not go through the body.') : good(parts)
  },
}

/** Whether a body lies on both sides of a plane by more than its triangles may lie off. */
function goesThrough({ kernel }: Bench, { shape }: Named, { origin, z }: Frame): boolean {
  const { positions } = kernel.shown(shape, SHOWN.chord, SHOWN.angle)
  let [low, high] = [0, 0]
  for (let v = 0; v < positions.length; v += 3) {
    const off = dot3(sub3(placeAt(positions, v / 3), origin), z)
    low = Math.min(low, off)
    high = Math.max(high, off)
  }
  return low < -SHOWN.chord && high > SHOWN.chord
}

/** Squares on the planes, large enough and across from the body wherever the planes' own origins are. */
function squares(bench: Bench, target: Named, planes: readonly Frame[], op: string): Named[] {
  const { bounds } = bench.kernel.measure(target.shape)
  const middle = scale3(add3(bounds.min, bounds.max), 0.5)
  const reach = 2 * Math.hypot(...sub3(bounds.max, bounds.min))
  return planes.map((f, i) => {
    const off = dot3(sub3(middle, f.origin), f.z)
    const near = { ...f, origin: sub3(middle, scale3(f.z, off)) }
    const names = [[planes.length > 1 ? `${op}:cut${i + 1}` : `${op}:cut`]]
    return { shape: bench.keep(bench.kernel.square(near, reach)), names }
  })
}

/** A face that parts has material of two parts beside it: with one only it ends inside, and the kernel calls it valid. */
function deadEnd(parts: readonly Named[], word: string) {
  const beside = new Map<string, number>()
  for (const p of parts)
    for (const n of new Set(p.names.flat()))
      if (n.startsWith(word)) beside.set(n, (beside.get(n) ?? 0) + 1)
  return [...beside.values()].some((n) => n < 2)
    ? bad('ends-inside', 'One of the faces ends inside the body: it does not part it there.')
    : null
}

/** Faces of another body as they are. */
function taken(bench: Bench, holder: Named, faces: number[], op: string): Named {
  const made = keepMade(bench, bench.kernel.skin(holder.shape, faces))
  return {
    shape: made.shape,
    names: putAbout(`${op}:by`, namesFrom(made.origins, [holder.names], op)),
  }
}

function swept(bench: Bench, { chain, names, way }: Sheet, op: string): Named {
  const made = keepMade(bench, bench.kernel.sheet(chain, way))
  return { shape: made.shape, names: namesFrom(made.origins, [], op, { swept: names }) }
}
