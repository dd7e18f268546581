import { useMemo } from 'react'
import { Plane, Vector3 } from 'three'
import { cutPlane } from '../../session/cut'
import { useSession } from '../../session/session'

/** What cuts away all before the plane of the cut: what lies behind it stays. */
export function useBehind(): Plane[] {
  const plane = useSession(cutPlane)
  return useMemo(() => {
    const n = new Vector3(...plane.z).negate()
    return [new Plane(n, -n.dot(new Vector3(...plane.origin)) + 1e-3)]
  }, [plane])
}
