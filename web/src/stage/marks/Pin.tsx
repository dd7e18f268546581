import { Html } from '@react-three/drei'
import type { ComponentProps, RefObject } from 'react'

/** The layer over the Stage that all pins are in: one that stays, as what is pinned must not move from one to another. */
const layer: RefObject<HTMLDivElement | null> = { current: null }

export const PinLayer = () => (
  <div ref={layer} className="pointer-events-none absolute inset-0 overflow-hidden" />
)

/** Something of the page that stays at a place in space. It takes no pointer unless it says so itself. */
export const Pin = (props: ComponentProps<typeof Html>) => (
  <Html portal={layer as RefObject<HTMLElement>} {...props} />
)
