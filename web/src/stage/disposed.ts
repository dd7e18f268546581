import { useEffect } from 'react'

/** A geometry that is given back to the graphics card when another takes its place. */
export function useDisposed<T extends { dispose(): void }>(thing: T): T {
  useEffect(() => () => thing.dispose(), [thing])
  return thing
}
