import type { P3 } from '@ivory/core/math'
import { describe, expect, it } from 'vitest'
import { useSession } from './session'
import {
  lay,
  layOn,
  movedStop,
  newHold,
  type StopDoc,
  sheetOf,
  sheetsOf,
  typedStop,
} from './tracing'

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

describe('the sheet a path is drawn on', () => {
  const path = {
    id: 'way',
    kind: 'path' as const,
    pieces: [
      [
        [0, 0, 0],
        [0, 30, 0],
      ] as [number, number, number][],
    ],
    kinks: [],
    stops: [],
    aside: [],
    teeth: [],
  }
  it('goes through the last place, along a datum plane where one is chosen', () => {
    expect(sheetsOf(['front', 'side', 'top', 'slope'])).toEqual(['level', 'front', 'side', 'slope'])
    const level = sheetOf({ op: 'way', sheet: 'level', tilt: 0 }, [path])
    expect([level.origin, level.z]).toEqual([
      [0, 30, 0],
      [0, 0, 1],
    ])
    const frame = { origin: [5, 5, 5], x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0] } as const
    const slope = { id: 'slope', kind: 'plane' as const, frame }
    const on = sheetOf({ op: 'way', sheet: 'slope', tilt: 0 }, [path, slope])
    expect([on.origin, on.z]).toEqual([
      [0, 30, 0],
      [1, 0, 0],
    ])
  })
  it('lies along a face where it is picked, or through three places; three in a line lay none', () => {
    const tracing = { op: 'way', sheet: 'level', tilt: 0, by: 'line' as const }
    const laid = (how: 'face' | 'three', ...picks: [P3, P3][]) => {
      useSession.setState({ tracing })
      lay(how)
      for (const [at, normal] of picks) layOn(at, normal)
      return useSession.getState().tracing!
    }
    const up: P3 = [0, 0, 1]
    const face = laid('face', [
      [3, 4, 20],
      [0, 0.6, 0.8],
    ])
    // Its last place lies off that plane: it goes through where it was picked.
    expect(sheetOf(face, [path])).toMatchObject({ origin: [3, 4, 20] })
    expect(sheetOf(face, [path]).z[1]).toBeCloseTo(0.6, 12)
    const three = laid('three', [[0, 30, 0], up], [[10, 30, 0], up], [[0, 30, 7], up])
    expect([three.sheet, three.laying]).toEqual(['own', undefined])
    expect(sheetOf(three, [path])).toMatchObject({
      origin: [0, 30, 0],
      x: [1, 0, 0],
      z: [0, -1, 0],
    })
    const line = laid('three', [[0, 0, 0], up], [[5, 0, 0], up], [[9, 0, 0], up])
    expect([line.sheet, line.laying?.picks]).toEqual(['level', []])
    useSession.setState({ tracing: null })
  })
  it('is tilted about the way the path last ran', () => {
    const tilted = sheetOf({ op: 'way', sheet: 'level', tilt: 30 }, [path])
    // About y, as a right-handed screw: up leans to the right.
    expect(tilted.z[0]).toBeCloseTo(0.5, 12)
    expect(tilted.z[2]).toBeCloseTo(Math.sqrt(0.75), 12)
    expect(tilted.y[1]).toBeCloseTo(1, 12)
  })
  it('new holds are of the last places', () => {
    expect(newHold('apart', 4)).toMatchObject({ place: 3, other: 4, along: 'any' })
    expect(newHold('along', 4)).toEqual({ kind: 'along', place: 4, axis: 'x' })
    expect(newHold('angle', 1)).toMatchObject({ place: 1, other: 1 })
  })
})
