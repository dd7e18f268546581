import { useThree } from '@react-three/fiber'
import { useEffect } from 'react'
import { useLaid } from '../../session/laid'
import { Dots } from '../drawn/PathLine'

/** The places a laid form was measured at, darker and larger the farther they are off. */
export function LaidGaps() {
  const laid = useLaid()
  const { invalidate } = useThree()
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn follows it
  useEffect(() => invalidate(), [laid])
  if (!laid) return null
  return (
    <>
      <Dots at={laid.well} color="#2f6b5a" size={2} />
      <Dots at={laid.near} color="#b5790f" size={5} />
      <Dots at={laid.beyond} color="#8f2f1c" size={8} />
    </>
  )
}
