import { unzipSync } from 'fflate'
import { expect, it } from 'vitest'
import { measureMesh, readStl } from '../mesh'
import { triangleMesh } from '../rebuild'
import { built, piece, the } from '../rebuild/exactroute.test-data'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { overlaps, release } from '.'
import { rereadStep } from './readback'

const route = [
  rectangle(10, 'flat', 'top', [0, 0], [10, 10]),
  op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 20 }),
  op(30, 'pattern', 'row', { body: 'block', count: 3, pitch: 15, result: 'bodies' }),
]
const w = {
  ...piece(route),
  bodies: {
    block: { name: "Käthe's lid", color: '#7a2e1d' },
    'row-2': { name: 'Käthe’s lid', color: '#00ff00' },
    'row-3': { name: '取手', color: '#0a141e' },
  },
}

it('several bodies leave with their names and colours, and a file each', async () => {
  const result = await built(w)
  expect(Object.values(result.state.bodies).map((b) => b.name)).toHaveLength(3)
  const shapes = await the()
  const step = release(w, result, 'step', { shapes })
  if (!step.ok) throw new Error(step.diagnosis.message)
  const text = new TextDecoder().decode(step.value.bytes)
  expect(text).toContain("PRODUCT('Kathe''s lid'")
  expect(text).toContain("PRODUCT('Kathe?s lid'")
  expect(text).toContain("PRODUCT('??'")
  // 0x7a / 255 and so on, as they are.
  expect(text).toMatch(/COLOUR_RGB\('',0\.4784\d*,0\.1803\d*,0\.1137\d*\)/)
  const body = { volume: 2000, solids: 1 }
  const reread = (color: string, name = "Kathe's lid") =>
    rereadStep(shapes.kernel, step.value.bytes, [
      { ...body, name, color },
      { ...body, name: '??' },
      { ...body, name: 'Kathe?s lid' },
    ])
  expect(reread('#7a2e1d').ok).toBe(true)
  expect(reread('#7a2e30')).toMatchObject({
    ok: false,
    diagnosis: { message: expect.stringContaining("the colour of Kathe's lid") },
  })
  expect(reread('#7a2e1d', 'Lid')).toMatchObject({ ok: false })

  const zip = release(w, result, 'zip', { shapes })
  if (!zip.ok) throw new Error(zip.diagnosis.message)
  const files = unzipSync(zip.value.bytes)
  expect(Object.keys(files)).toEqual(['ka-the-s-lid.stl', 'ka-the-s-lid-2.stl', 'workpiece.stl'])
  for (const bytes of Object.values(files)) {
    const mesh = readStl(bytes)
    const m = mesh.ok && measureMesh(mesh.value)
    expect(m && [m.closed, Math.round(m.volume)]).toEqual([true, 2000])
  }
})

it('bodies that overlap are named with how much; those that only touch are not', async () => {
  const { meshes } = await the()
  const at = async (x: number, id: string) => {
    const moved = op(30, 'move', 'there', { body: 'block', how: 'by', x, y: 0, z: 0 })
    const body = (await built(piece([...route.slice(0, 2), moved]))).state.bodies.block!
    return { name: id, mesh: triangleMesh(body) }
  }
  const all = [await at(0, 'one'), await at(7, 'two'), await at(17, 'three')]
  expect(overlaps(all, meshes)).toEqual([{ a: 'one', b: 'two', volume: expect.closeTo(600, 2) }])
  // A plug in its hole shares a round wall with it.
  const plug = [
    rectangle(10, 'flat', 'top', [0, 0], [40, 40]),
    op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 20 }),
    circles(30, 'ring', 'top', [[20, 20, 9]]),
    op(40, 'split', 'plug', { body: 'block', how: 'tools', profiles: ['ring'] }),
  ]
  const { bodies } = (await built(piece(plug))).state
  const two = Object.values(bodies).map((b) => ({ name: b.id, mesh: triangleMesh(b) }))
  expect(two).toHaveLength(2)
  expect(overlaps(two, meshes)).toEqual([])
})
