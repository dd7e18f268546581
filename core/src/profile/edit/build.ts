import { type Curve, pointAt } from '../../curve'
import { dist, type P2 } from '../../math'
import type { Drawing, Entity, Source } from '../drawing'

type Kept = Drawing['points'][string]

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
    const id = fresh('p', (x) => x in this.#points)
    this.#points[id] = { x: tidy(at[0]), y: tidy(at[1]) }
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
  add<E extends Entity>(entity: Omit<E, 'id'>, stem: string, like?: Entity): string {
    const id = fresh(stem, (x) => this.#entities.some((e) => e.id === x))
    const mark = like?.construction ? { construction: true } : {}
    this.#entities.push({ ...entity, ...mark, id } as unknown as Entity)
    this.added.push(id)
    return id
  }
  line(a: P2, b: P2, like?: Entity): string {
    return this.add({ kind: 'line', a: this.point(a), b: this.point(b) } as never, 'line', like)
  }
  /** A curve as the piece that draws it. */
  curve(c: Curve, like?: Entity): string {
    if (c.kind === 'line') return this.line(c.a, c.b, like)
    if (c.kind === 'spline') {
      const points = c.poles.map((p, i) =>
        i === 0 || i === c.poles.length - 1 ? this.point(p) : this.loose(p),
      )
      const knots = [...c.knots]
      return this.add({ kind: 'poles', points, degree: c.degree, knots } as never, 'spline', like)
    }
    if (Math.abs(c.sweep) > 2 * Math.PI - 1e-9) {
      const entity = { kind: 'circle', c: this.point(c.c), radius: tidy(c.radius) }
      return this.add(entity as never, 'circle', like)
    }
    const [a, m, b] = [0, 0.5, 1].map((t) => pointAt(c, t)) as [P2, P2, P2]
    const entity = { kind: 'arc', a: this.point(a), via: this.loose(m), b: this.point(b) }
    return this.add(entity as never, 'arc', like)
  }
  /** A piece that follows a source; of a spline only the ends are points of the drawing. */
  followed(c: Curve, source: Source, like: { construction: boolean }): string {
    const mark = { source, ...like }
    if (c.kind === 'line')
      return this.add(
        { kind: 'line', a: this.point(c.a), b: this.point(c.b), ...mark } as never,
        'seen',
      )
    const ends = [pointAt(c, 0), pointAt(c, 1)] as const
    if (c.kind === 'arc' && dist(ends[0], ends[1]) < 1e-9)
      return this.add(
        { kind: 'circle', c: this.point(c.c), radius: tidy(c.radius), ...mark } as never,
        'seen',
      )
    const [a, b] = [this.point(ends[0]), this.point(ends[1])]
    if (c.kind === 'arc')
      return this.add(
        { kind: 'arc', a, via: this.loose(pointAt(c, 0.5)), b, ...mark } as never,
        'seen',
      )
    return this.add({ kind: 'poles', points: [a, b], degree: 1, ...mark } as never, 'seen')
  }
  /** A point of its own, shared with nothing. */
  loose(at: P2): string {
    const id = fresh('p', (x) => x in this.#points)
    this.#points[id] = { x: tidy(at[0]), y: tidy(at[1]) }
    return id
  }
}

/** Far finer than any tolerance, so that what is tangent stays so; only rounding noise goes. */
const tidy = (x: number): number => Number(x.toFixed(9)) + 0

function fresh(stem: string, taken: (id: string) => boolean): string {
  let n = 1
  while (taken(`${stem}${n}`)) n++
  return `${stem}${n}`
}
