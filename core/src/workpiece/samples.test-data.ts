import type { Op } from './schema'

/** An op of a test route, named by its id. */
export const op = (number: number, kind: string, id: string, inputs: Op['inputs']): Op => ({
  id,
  number,
  kind,
  name: id,
  inputs,
})
/** The route to a torus, tube radius 10 about radius 40: body `turn`. */
export const ringRoute = [
  op(10, 'profile', 'line', {
    plane: 'front',
    drawing: {
      points: { c: { x: 40, y: 0 } },
      entities: [{ id: 'o', kind: 'circle', c: 'c', radius: 10 }],
    },
  }),
  op(20, 'revolve', 'turn', { profile: 'line', mode: 'new', angle: 360, start: 0 }),
]
