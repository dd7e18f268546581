import { rounded } from '../math'

/** Text as it stands in SVG. */
export const xmlText = (s: string): string => s.replace(/[<>&"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** A number of SVG, mm to 0.001. */
export const n = (x: number): string => `${rounded(x, 3)}`
