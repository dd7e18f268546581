import { mm } from '@ivory/core/math'
import { useLiveWall } from '../../session/livewall'
import { Dots } from '../drawn/PathLine'
import { Pin } from '../marks/Pin'

/** While a cage is dragged: where the wall over the room inside is least, and whether that is too little. */
export function LiveWall() {
  const live = useLiveWall()
  if (!live) return null
  const { wall, asked, at } = live
  const thin = asked !== null && wall < asked - 5e-3
  return (
    <>
      <Dots at={[at]} color={thin ? '#93321d' : '#22604f'} size={12} />
      <Pin position={[...at]}>
        <span
          data-testid="live-wall"
          className={`figures block translate-x-3 -translate-y-6 whitespace-nowrap rounded-sm border bg-sheet px-1.5 ${thin ? 'border-out text-out' : 'border-rule text-holds'}`}
        >
          {wall < 0 ? `the room stands out by ${mm(-wall, 2)}` : `wall about ${mm(wall, 2)}`}
          {thin && wall >= 0 && asked !== null ? `, under ${mm(asked, 2)}` : ''}
        </span>
      </Pin>
    </>
  )
}
