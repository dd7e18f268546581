import { OPS } from '@ivory/core/ops'
import { emptyWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import { demoSet } from '@ivory/demo'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { faceName } from '../bench/names'
import { toggleFace } from '../bench/picking'
import { lathe } from '../engine'
import { HISTORY } from '../storage/db'
import {
  addOp,
  documentCommands,
  keycap,
  OP_LETTERS,
  removeOp,
  rollTo,
  toggleSuppressed,
} from './commands'
import {
  edit,
  logged,
  openSession,
  preview,
  redo,
  select,
  setInputs,
  settle,
  undo,
  useSession,
} from './session'

const doc = (): Workpiece => useSession.getState().doc!
const called = (to: string) => (d: { name: string }) => {
  d.name = to
}
const name = (to: string) => edit(called(to))
const ids = () => doc().route.map((o) => o.id)
const open = (w: Workpiece) => openSession(w, [], 0)

beforeEach(() => {
  open(emptyWorkpiece('w', 'Start'))
  vi.restoreAllMocks()
})

describe('changes and their undoing', () => {
  it('goes back and on again through every change', () => {
    for (const n of ['A', 'B', 'C']) name(n)
    const seen = [doc().name]
    for (let i = 0; i < 3; i++) {
      undo()
      seen.push(doc().name)
    }
    expect(seen).toEqual(['C', 'B', 'A', 'Start'])
    undo()
    expect(doc().name).toBe('Start')
    for (let i = 0; i < 4; i++) redo()
    expect(doc().name).toBe('C')
  })
  it('a change after going back takes the place of what was undone', () => {
    name('A')
    undo()
    name('B')
    redo()
    expect(doc().name).toBe('B')
    undo()
    expect(doc().name).toBe('Start')
  })
  it('a drag is one change, undone as a whole', () => {
    name('A')
    for (const n of ['A1', 'A2', 'A3']) preview(called(n))
    expect(useSession.getState().past).toHaveLength(1)
    settle()
    expect(doc().name).toBe('A3')
    expect(useSession.getState().past).toHaveLength(2)
    undo()
    expect(doc().name).toBe('A')
  })
  it('undoing in the middle of a drag ends it', () => {
    name('A')
    preview(called('A1'))
    undo()
    expect(useSession.getState().dragFrom).toBeNull()
    settle()
    expect(doc().name).toBe('Start')
  })
  it('what changes nothing is no change', () => {
    edit(() => undefined)
    name('Start')
    settle()
    expect(useSession.getState().past).toEqual([])
  })
  it('remembers so many changes and no more', () => {
    for (let i = 0; i < HISTORY + 20; i++) name(`n${i}`)
    expect(useSession.getState().past).toHaveLength(HISTORY)
  })
  it('an input set to nothing is taken out', () => {
    addOp('plane')
    const [id] = ids()
    setInputs(id!, { to: 'side', offset: 3 })
    setInputs(id!, { to: undefined })
    expect(doc().route[0]!.inputs).not.toHaveProperty('to')
    expect(doc().route[0]!.inputs.offset).toBe(3)
  })
  it('the log keeps the newest of many entries', () => {
    edit((d) => {
      for (let i = 0; i < 520; i++) logged(d, `entry ${i}`)
    })
    expect(doc().log).toHaveLength(500)
    expect(doc().log.at(-1)!.text).toBe('entry 519')
  })
})

describe('the route', () => {
  it('new ops follow the selected one and stand on what is there', () => {
    addOp('profile')
    addOp('revolve')
    const [outline, body] = ids()
    expect(doc().route[1]!.inputs).toMatchObject({ profile: outline, mode: 'new' })
    expect(doc().bodies[body!]?.name).toBe('Body 1')
    select(outline!)
    addOp('plane')
    expect(ids()).toEqual([outline, 'plane1', body])
    const numbers = doc().route.map((o) => o.number)
    expect([...numbers].sort((a, b) => a - b)).toEqual(numbers)
    select(body!)
    addOp('shell')
    expect(doc().route.at(-1)!.inputs.body).toBe(body)
    // What refines a body starts with picking.
    expect(useSession.getState().picking).toMatchObject({ input: 'open', what: 'faces' })
  })
  it('a second body is one of its own name; ids never meet', () => {
    for (let i = 0; i < 4; i++) addOp('profile')
    expect(new Set(ids()).size).toBe(4)
  })
  it('deleting selects the one before and undoes as one', () => {
    addOp('profile')
    addOp('plane')
    const before = ids()
    removeOp(before[1]!)
    expect(useSession.getState().selected).toBe(before[0])
    undo()
    expect(ids()).toEqual(before)
  })
  it('leaving out and rolling back are changes of the document', () => {
    addOp('profile')
    addOp('plane')
    const [a, b] = ids()
    toggleSuppressed(a!)
    expect(doc().route[0]!.suppressed).toBe(true)
    toggleSuppressed(a!)
    expect(doc().route[0]).not.toHaveProperty('suppressed')
    rollTo(a!)
    expect(doc().rolledTo).toBe(a)
    rollTo(b!)
    expect(doc()).not.toHaveProperty('rolledTo')
  })
  it('picking a face again takes it out', () => {
    const asked = vi.spyOn(lathe, 'call').mockResolvedValue(null)
    addOp('profile')
    addOp('revolve')
    addOp('shell')
    const ref = { face: 'turn1:top', at: [1, 2] as [number, number] }
    const open = () => doc().route.at(-1)!.inputs.open
    toggleFace(ref)
    toggleFace({ ...ref, index: 1 })
    expect(open()).toHaveLength(2)
    toggleFace(ref)
    expect(open()).toEqual([{ ...ref, index: 1 }])
    expect(asked).toHaveBeenCalledWith('range', expect.objectContaining({ input: 'wall' }))
  })
  it('a new op is brought into what holds, as part of the pick; an old one is left alone', async () => {
    const spans = [{ from: 0, to: 1.4, blocker: null }]
    vi.spyOn(lathe, 'call').mockResolvedValue({ spans, below: null, least: 0.1, cap: 50 })
    addOp('profile')
    addOp('revolve')
    addOp('shell')
    const wall = () => doc().route.at(-1)!.inputs.wall
    toggleFace({ face: 'turn1:top' })
    await vi.waitFor(() => expect(wall()).toBe(0.7))
    undo()
    expect(doc().route.at(-1)!.inputs.open).toEqual([])
    expect(wall()).toBe(3)
    useSession.setState({ picking: { op: doc().route.at(-1)!.id, input: 'open', what: 'faces' } })
    toggleFace({ face: 'turn1:top' })
    await Promise.resolve()
    expect(wall()).toBe(3)
  })
  it('a new split stands at the middle of its body', () => {
    addOp('profile')
    addOp('revolve')
    const section = [{ name: 'side', points: [[10, 4] as const, [10, 90] as const] }]
    useSession.setState({ view: { bodies: [{ id: 'turn1', section }] } as never })
    addOp('split')
    expect(doc().route.at(-1)!.inputs).toMatchObject({ how: 'height', height: 47, body: 'turn1' })
  })
})

describe('commands', () => {
  it('no key does two things', () => {
    const keys = documentCommands()
      .map((c) => c.key)
      .filter(Boolean)
    expect(new Set(keys).size).toBe(keys.length)
  })
  it('every op can be added from the palette, and by a letter that is its own in its stage', () => {
    for (const stage of ['draw', 'form', 'refine']) {
      const ops = Object.values(OPS).filter((o) => o.stage === stage)
      const letters = ops.map((o) => OP_LETTERS[o.kind])
      expect(letters.every((l) => l && /^[a-z]$/.test(l))).toBe(true)
      expect(new Set(letters).size).toBe(letters.length)
      for (const o of ops)
        expect(documentCommands().some((c) => c.id === `add-${o.kind}`)).toBe(true)
    }
  })
  it('keys are written as on a keycap', () => {
    expect(keycap('mod+shift+z')).toBe('Ctrl Shift Z')
    expect(keycap('')).toBe('')
  })
})

describe('names of faces for people', () => {
  const cruet = demoSet()[0]!
  const [outline, turn] = cruet.route
  it('are those of the pieces and ops they come from', () => {
    expect(faceName(cruet, `${turn!.id}:base`)).toBe(`base of ${turn!.name}`)
    expect(faceName(cruet, `x:round(${turn!.id}:base|${turn!.id}:side)`)).toBe(
      `round between base of ${turn!.name} and side of ${turn!.name}`,
    )
    expect(faceName(cruet, 'x:rim(y:round(a:b|c:d))')).toBe(
      'rim at round between b of a and d of c',
    )
    expect(faceName(cruet, 'gone:cut')).toBe('cut of gone')
    expect(faceName(cruet, outline!.id)).toBe(outline!.id)
  })
})
