import type { Workpiece } from '@ivory/core/workpiece'

/** A face's name for people: `turn:side` is "side of Turn the body". */
export function faceName(doc: Workpiece, name: string): string {
  const nested = /^([\w-]+):(\w+)\((.*)\)$/.exec(name)
  if (nested) {
    const [, op, word, inner] = nested
    const parts = topLevel(inner!).map((n) => faceName(doc, n))
    if (word === 'round') return `round between ${parts.join(' and ')}`
    if (word === 'bevel') return `bevel between ${parts.join(' and ')}`
    if (word === 'rim') return `rim at ${parts.join(' and ')}`
    return `${opName(doc, op!)}, along ${parts.join(' and ')}`
  }
  const [op, entity] = name.split(':')
  if (entity === undefined) return name
  const [piece, along] = entity.split('@')
  if (along) return `${piece} of ${opName(doc, op!)}, along ${along}`
  return entity === 'cut' ? `cut of ${opName(doc, op!)}` : `${entity} of ${opName(doc, op!)}`
}

/** What an op is called; its id where it is not there. */
export const opName = (doc: Workpiece | null, id: string): string =>
  doc?.route.find((o) => o.id === id)?.name ?? id

/** Splits at the bars that are not inside brackets. */
function topLevel(text: string): string[] {
  const out = ['']
  let depth = 0
  for (const c of text) {
    if (c === '(') depth++
    if (c === ')') depth--
    if (c === '|' && depth === 0) out.push('')
    else out[out.length - 1] += c
  }
  return out
}

/** What is picked: a face, an edge or a corner. */
export type Ref = { face: string } | { edge: [string, string] } | { vertex: string[] }

/** What a picked thing is called: an edge by its two faces, a corner by all of its. */
export function refName(doc: Workpiece, r: Ref): string {
  if ('face' in r) return faceName(doc, r.face)
  return ('edge' in r ? r.edge : r.vertex).map((n) => faceName(doc, n)).join(' / ')
}

/** The same of what a gauge has picked: a face's name, or the reference to an edge or a corner as JSON. */
export const thingName = (doc: Workpiece, thing: string): string =>
  refName(doc, thing.startsWith('{') ? (JSON.parse(thing) as Ref) : { face: thing })
