import { Line } from '@react-three/drei'
import type { BodyView } from '../../engine'
import { useSession } from '../../session/session'
import { Dots } from '../drawn/PathLine'

/** What is pointed at in the chart: a level across an axis as a brass frame about the body, a place on a path as a dot. */
export function ChartMark({ bodies }: { bodies: readonly BodyView[] }) {
  const marked = useSession((s) => s.marked)
  const body = useSession((s) => s.chart?.body)
  const shown = bodies.find((b) => b.id === body) ?? bodies[0]
  if (marked && 'spot' in marked) return <Dots at={[marked.spot]} color="#8a4b00" size={12} />
  if (!marked || 'from' in marked || !shown) return null
  const k = 'xyz'.indexOf(marked.along)
  const [a, b] = [(k + 1) % 3, (k + 2) % 3] as [0 | 1 | 2, 0 | 1 | 2]
  const { min, max } = shown.bounds
  const corner = (u: number, v: number): [number, number, number] => {
    const p: [number, number, number] = [0, 0, 0]
    p[k] = marked.at
    p[a] = u < 0 ? min[a]! - 3 : max[a]! + 3
    p[b] = v < 0 ? min[b]! - 3 : max[b]! + 3
    return p
  }
  const ring = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1), corner(-1, -1)]
  return <Line points={ring} color="#8a4b00" lineWidth={2} />
}
