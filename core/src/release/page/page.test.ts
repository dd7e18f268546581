import { expect, test } from 'vitest'
import { emptyWorkpiece } from '../../workpiece'
import { pageOf } from './page'

const body = {
  color: '#336699',
  positions: Float32Array.from([0, 0, 0, 10, 0, 0, 0, 20, 0]),
  normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1]),
  triangles: Uint32Array.from([0, 1, 2]),
}
const nasty = '<script>alert("x")</script> & </script>'
const page = pageOf({
  w: { ...emptyWorkpiece('w', nasty), brief: { purpose: nasty, targets: {} } },
  bodies: [body],
  listed: [{ id: 'a', name: nasty, volume: 1000, size: [1, 2, 3], verdict: '' }],
  readings: [{ label: nasty, body: 'b', text: '3 mm', verdict: 'none' }],
  made: 'today',
})

test('what is typed stays text: no script but its own two', () => {
  expect(page.match(/<script/g)).toHaveLength(2)
  expect(page.match(/<\/script>/g)).toHaveLength(2)
  expect(page).toContain('&#60;script&#62;alert')
})
test('it asks nothing of any other place', () => {
  expect(page).not.toMatch(/https?:|src=|@import|url\(|fetch\(|XMLHttp/)
  expect(page).toContain("default-src 'none'")
})
test('the triangles read back as they were, with the ball about them', () => {
  const data = JSON.parse(/id="piece">([^<]*)</.exec(page)![1]!)
  const floats = (t: string) => [
    ...new Float32Array(Uint8Array.from(atob(t), (c) => c.charCodeAt(0)).buffer),
  ]
  expect(floats(data.bodies[0].positions)).toEqual([...body.positions])
  expect(data.middle).toEqual([5, 10, 0])
  expect(data.radius).toBeCloseTo(Math.hypot(5, 10), 12)
})
