import { describe, expect, it } from 'vitest'
import { movedStop, type StopDoc, typedStop } from './tracing'

describe('places of a path', () => {
  it('are typed as three numbers or expressions, from the last place with a plus', () => {
    expect(typedStop('10 0 -5', 'mm', 'line')).toEqual({
      x: 10,
      y: 0,
      z: -5,
      rel: false,
      by: 'line',
    })
    expect(typedStop('+10 0 -5', 'mm', 'arc')).toEqual({ x: 10, y: 0, z: -5, rel: true, by: 'arc' })
    expect(typedStop('+ reach/2; 0; 1/2in', 'mm', 'line')).toEqual({
      x: 'reach/2',
      y: 0,
      z: '1/2in',
      rel: true,
      by: 'line',
    })
    for (const bad of ['', '10 0', '1 2 3 4', '+']) expect(typedStop(bad, 'mm', 'line')).toBeNull()
  })
  it('that are moved leave the next where it is, and what is an expression too', () => {
    const stops: StopDoc[] = [
      { x: 0, y: 0, z: 0 },
      { x: 10, y: 'deep', z: 0, rel: true },
      { x: 5, y: 5, z: 5, rel: true },
      { x: 1, y: 1, z: 1, rel: true },
    ]
    expect(movedStop(stops, 1, [2, 3, -1])).toEqual([
      stops[0],
      { x: 12, y: 'deep', z: -1, rel: true },
      { x: 3, y: 5, z: 6, rel: true },
      stops[3],
    ])
    const held: StopDoc[] = [{ point: 'p' }, { x: 1, y: 1, z: 1 }]
    expect(movedStop(held, 0, [1, 1, 1])).toEqual(held)
  })
})
