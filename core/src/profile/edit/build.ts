import { type Curve, pointAt } from '../../curve'
import { dist, freshId, type P2 } from '../../math'
import type { Drawing, Entity, Source } from '../drawing'
import { tidy } from './places'

type Kept = Drawing['points'][string]
/** An entity before it has an id. */
type Bare = Entity extends infer E ? (E extends Entity ? Omit<E, 'id'> : never) : never

/** What a new piece is like: a construction aid, or not. */
type Like = Pick<Entity, 'construction'>

/** Far finer than any tolerance, so that what is tangent stays so; only rounding noise goes. */
const fine = (x: number): number => tidy(x, 9)

/** Adds points and pieces to a drawing under ids of their own; nothing given is changed in place. */
export class Builder {
  readonly #points: Record<string, Kept>
  readonly #entities: Entity[]
  readonly #drawing: Drawing
  /** Points made here, by place, so that pieces that meet share one. */
  readonly #made: { id: string; at: P2 }[] = []
  readonly #join: number
  readonly added: string[] = []

  /** Places nearer than `join` mm become one point. */
  constructor(drawing: Drawing, join = 1e-6) {
    this.#drawing = drawing
    this.#join = join
    this.#points = { ...drawing.points }
    this.#entities = [...drawing.entities]
  }
  get drawing(): Drawing {
    return { ...this.#drawing, points: this.#points, entities: this.#entities }
  }
  /** A point at a place; one made here before is shared. */
  point(at: P2): string {
    const known = this.#made.find((m) => dist(m.at, at) <= this.#join)
    if (known) return known.id
    const id = this.loose(at)
    this.#made.push({ id, at })
    return id
  }
  /** Lets an existing point be shared by what is made at its place. */
  share(id: string, at: P2): this {
    this.#made.push({ id, at })
    return this
  }
  remove(id: string): this {
    const i = this.#entities.findIndex((e) => e.id === id)
    if (i >= 0) this.#entities.splice(i, 1)
    return this
  }
  replace(entity: Entity): this {
    const i = this.#entities.findIndex((e) => e.id === entity.id)
    if (i >= 0) this.#entities[i] = entity
    return this
  }
  /** `like` gives the construction mark. */
  add(entity: Bare, stem: string, like?: Like): string {
    const id = freshId(
      this.#entities.map((e) => e.id),
      stem,
    )
    const mark = like?.construction ? { construction: true } : {}
    this.#entities.push({ ...entity, ...mark, id })
    this.added.push(id)
    return id
  }
  line(a: P2, b: P2, like?: Like): string {
    return this.add({ kind: 'line', a: this.point(a), b: this.point(b) }, 'line', like)
  }
  /** A curve as the piece that draws it. */
  curve(c: Curve, like?: Like): string {
    if (c.kind === 'line') return this.line(c.a, c.b, like)
    if (c.kind === 'spline') {
      const points = c.poles.map((p, i) =>
        i === 0 || i === c.poles.length - 1 ? this.point(p) : this.loose(p),
      )
      const knots = [...c.knots]
      return this.add({ kind: 'poles', points, degree: c.degree, knots }, 'spline', like)
    }
    if (Math.abs(c.sweep) > 2 * Math.PI - 1e-9) {
      const radius = fine(c.radius)
      return this.add({ kind: 'circle', c: this.point(c.c), radius }, 'circle', like)
    }
    const [a, m, b] = [0, 0.5, 1].map((t) => pointAt(c, t)) as [P2, P2, P2]
    const [from, to] = [this.point(a), this.point(b)]
    return this.add({ kind: 'arc', a: from, via: this.loose(m), b: to }, 'arc', like)
  }
  /** A piece that follows a source; of a spline only the ends are points of the drawing. */
  followed(c: Curve, source: Source, like: { construction: boolean }): string {
    const mark = { source, ...like }
    if (c.kind === 'line')
      return this.add({ kind: 'line', a: this.point(c.a), b: this.point(c.b), ...mark }, 'seen')
    const ends = [pointAt(c, 0), pointAt(c, 1)] as const
    if (c.kind === 'arc' && dist(ends[0], ends[1]) < 1e-9)
      return this.add(
        { kind: 'circle', c: this.point(c.c), radius: fine(c.radius), ...mark },
        'seen',
      )
    const [a, b] = [this.point(ends[0]), this.point(ends[1])]
    if (c.kind === 'arc')
      return this.add({ kind: 'arc', a, via: this.loose(pointAt(c, 0.5)), b, ...mark }, 'seen')
    return this.add({ kind: 'poles', points: [a, b], degree: 1, ...mark }, 'seen')
  }
  /** A point of its own, shared with nothing. */
  loose(at: P2): string {
    const id = freshId(Object.keys(this.#points), 'p')
    this.#points[id] = { x: fine(at[0]), y: fine(at[1]) }
    return id
  }
}
