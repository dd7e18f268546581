import {
  AXES,
  aboutOf,
  bevelled,
  bridged,
  type Cage,
  creased,
  cutAcross,
  dissolved,
  extrudeFaces,
  extrudeRuns,
  filled,
  flattened,
  insertLoops,
  middleOf,
  movedBy,
  movedOut,
  type Orbits,
  openLoops,
  openRuns,
  type Run,
  relaxed,
  rounded,
  type Symmetry,
  scaledBy,
  turnedAlike,
  turnedBy,
  type Ways,
  welded,
  withCopies,
  withFalloff,
  without,
} from '../../../cage'
import { add3, bad, good, type Outcome, type P3, placeAt } from '../../../math'
import { putAlong } from './along'
import { type Chosen, chosenOn, copiesOf } from './chosen'
import { bridgesOf, copiesEach, listsOf, onesOwn, unlike } from './each'
import type { CageEdit, Reads } from './inputs'
import { alike, type Made, only } from './made'
import { type Edited, finerStand, lostOf, type Stand, symmetric } from './stand'
import { keeping, walled } from './whole'

/** What an edit makes of a cage, on all copies of what it names. */
export function edited(
  stand: Stand,
  edit: Exclude<CageEdit, { kind: 'lay' }>,
  symmetry: Symmetry,
  read: Reads,
): Outcome<Edited> {
  const { cage, free } = stand
  const orbits = symmetric(stand, symmetry)
  if (!orbits.ok) return orbits
  if (edit.kind === 'free') {
    const { points, lost } = chosenOn(cage, edit.on)
    // What one copy leaves, the others have no longer.
    const all = withCopies(orbits.value.points, points)
    const names = all.map((p) => cage.layout.points[p]!)
    return good({ cage, free: new Set([...free, ...names]), warnings: lostOf(lost) })
  }
  if (edit.kind === 'finer') {
    const made = finerStand(stand, symmetry, edit.id)
    return made.ok ? good({ ...made.value, warnings: [] }) : made
  }
  if (edit.kind === 'thicken') return walled(stand, edit, read)
  if (edit.kind === 'rows') return byRows(stand, edit, orbits.value, read)
  const chosen = chosenOn(cage, edit.on)
  if (chosen.lost.length === edit.on.length)
    return bad('cage-nothing', 'What this edit works on is not on the cage, or nothing is chosen.')
  const made = changed(cage, edit, chosen, orbits.value, read)
  if (!made.ok) return made
  const warnings = [...lostOf(chosen.lost), ...made.value.warnings]
  const now = { cage: made.value.cage, free }
  return 'form' in edit && edit.form === 'kept'
    ? keeping(stand, now, symmetry, warnings)
    : good({ ...now, warnings })
}

function changed(
  cage: Cage,
  edit: Exclude<CageEdit, { kind: 'rows' | 'free' | 'finer' | 'thicken' | 'lay' }>,
  chosen: Chosen,
  orbits: Orbits,
  read: Reads,
): Made {
  const all = copiesOf(chosen, orbits)
  const { points } = chosen
  const none = (what: string) => bad('cage-none', `Choose ${what} for this edit.`)
  switch (edit.kind) {
    case 'move': {
      const counts = onesOwn(withFalloff(cage, points, read.length(edit.reach)), orbits)
      const by = [edit.x, edit.y, edit.z].map(read.length) as unknown as P3
      const ways = movedBy(counts, by)
      const out = read.length(edit.out)
      if (out !== 0)
        for (const [p, d] of movedOut(cage, counts, out)) ways.set(p, add3(ways.get(p)!, d))
      return alike(cage, orbits, ways, points)
    }
    case 'size': {
      const counts = onesOwn(withFalloff(cage, points, read.length(edit.reach)), orbits)
      const by = [edit.sx, edit.sy, edit.sz].map(read.number) as unknown as P3
      const from = aboutOf(cage, points, edit.about)
      return alike(cage, orbits, scaledBy(cage, counts, by, from), points)
    }
    case 'turn': {
      const counts = onesOwn(withFalloff(cage, points, read.length(edit.reach)), orbits)
      const from = aboutOf(cage, points, edit.about)
      return alike(
        cage,
        orbits,
        turnedBy(cage, counts, read.angle(edit.angle), from, AXES[edit.way]),
        points,
      )
    }
    case 'flat': {
      const middle = middleOf(cage, points)
      const k = 'xyz'.indexOf(edit.way)
      const at = edit.value === undefined ? middle[k]! : read.length(edit.value)
      const from = middle.map((x, i) => (i === k ? at : x)) as unknown as P3
      return alike(cage, orbits, flattened(cage, points, from, AXES[edit.way]))
    }
    case 'round': {
      const ways: Ways = new Map()
      for (const row of cage.layout.rows) {
        if (row.points.length < 3 || !row.points.every((p) => points.includes(p))) continue
        for (const [p, d] of rounded(cage, row.points, edit.spread === 'even')) ways.set(p, d)
      }
      return ways.size === 0 ? none('one or more whole rows') : alike(cage, orbits, ways)
    }
    case 'along':
      return putAlong(cage, chosen, edit, orbits, read)
    case 'relax':
      return alike(cage, orbits, relaxed(cage, all.points, edit.rounds))
    case 'extrude': {
      const [by, size] = [read.length(edit.by), read.number(edit.size)]
      if (all.faces.length > 0) {
        const lists = listsOf(edit.each, chosen.faces, all.faces, orbits)
        return only(good(extrudeFaces(cage, lists, by, size, edit.id)))
      }
      const runs = openRuns(cage, all.edges)
      return runs.length === 0
        ? none('faces, or edges at an opening,')
        : only(good(extrudeRuns(cage, runs, by, size, edit.id)))
    }
    case 'remove':
      if (all.faces.length === 0) return none('faces')
      return all.faces.length === cage.layout.faces.length
        ? bad('cage-empty', 'This would take away all faces.')
        : only(good(without(cage, new Set(all.faces))))
    case 'crease':
      return all.edges.length === 0
        ? none('edges')
        : only(good(creased(cage, all.edges, [], read.number(edit.sharp))))
    case 'corner':
      return only(good(creased(cage, [], all.points, read.number(edit.sharp))))
    case 'loop': {
      const share = read.number(edit.share)
      if (!(share > 0 && share < 1))
        return bad('cage-share', `A loop lies between 0 and 1 of the way across, not at ${share}.`)
      const most = edit.runs === 'over' ? edit.long : Number.POSITIVE_INFINITY
      return all.edges.length === 0
        ? none('an edge that the loop is to cross')
        : only(good(insertLoops(cage, all.edges, share, edit.id, most)))
    }
    case 'bevel':
      return all.edges.length === 0
        ? none('edges')
        : only(bevelled(cage, all.edges, read.length(edit.by), edit.id))
    case 'dissolve':
      return all.edges.length === 0 ? none('edges') : only(good(dissolved(cage, all.edges)))
    case 'rotate':
      return all.edges.length === 0
        ? none('edges')
        : only(turnedAlike(cage, chosen.edges, edit.way, orbits))
    case 'fill':
      return filledAt(cage, all.points, edit.how, edit.id)
    case 'bridge': {
      const runs = openRuns(cage, chosen.edges)
      if (runs.length === 2 && runs.every((r) => !r.closed))
        return bridgesOf(cage, runs as [Run, Run], edit, orbits)
      const loops = openLoops(cage).filter((l) => l.some((p) => points.includes(p)))
      return loops.length === 2
        ? only(bridged(cage, loops[0]!, loops[1]!, edit.id))
        : bad(
            'cage-bridge',
            `A bridge joins two holes, or two runs of edges at openings; points of ${loops.length} holes and ${runs.length} runs are chosen.`,
          )
    }
    case 'weld':
      return points.length < 2
        ? none('two points or more')
        : only(welded(cage, copiesEach(points, orbits)))
    case 'cut': {
      const pairs = copiesEach(points, orbits)
      return points.length === 2
        ? only(cutAcross(cage, unlike(pairs as [number, number][]), edit.id))
        : none('two points of one face')
    }
  }
}

/** All holes that have a chosen point. */
function filledAt(
  cage: Cage,
  points: readonly number[],
  how: 'shut' | 'fan' | 'grid',
  id: string,
): Made {
  const loops = openLoops(cage).filter((l) => l.some((p) => points.includes(p)))
  if (loops.length === 0) return bad('cage-hole', 'No hole of the cage goes by what is chosen.')
  let now = cage
  for (const [k, loop] of loops.entries()) {
    const made = filled(now, loop, how, loops.length === 1 ? id : `${id}/${k}`)
    if (!made.ok) return made
    now = made.value
  }
  return only(good(now))
}

/** Rows sized about the z axis, lifted, and each turned against the row below. */
function byRows(
  { cage, free }: Stand,
  edit: Extract<CageEdit, { kind: 'rows' }>,
  orbits: Orbits,
  read: Reads,
): Outcome<Edited> {
  const given = new Map(edit.rows.map((r) => [r.row, r]))
  const ways: Ways = new Map()
  let turn = 0
  for (const row of cage.layout.rows) {
    const g = given.get(row.name)
    turn += g?.twist === undefined ? 0 : read.angle(g.twist)
    const size = g?.size === undefined ? 1 : read.number(g.size)
    const lift = g?.lift === undefined ? 0 : read.length(g.lift)
    const [c, s] = [size * Math.cos(turn), size * Math.sin(turn)]
    for (const p of row.points) {
      const [x, y] = placeAt(cage.at, p)
      ways.set(p, [c * x - s * y - x, s * x + c * y - y, lift])
    }
  }
  const lost = edit.rows.filter((r) => !cage.layout.rows.some((own) => own.name === r.row))
  const made = alike(cage, orbits, ways)
  if (!made.ok) return made
  const words = lostOf(lost.map((r) => `row ${r.row}`))
  return good({ cage: made.value.cage, free, warnings: [...words, ...made.value.warnings] })
}
