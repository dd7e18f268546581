import { readFileSync } from 'node:fs'
import { readGauges, rebuild } from '@ivory/core/rebuild'
import { readWorkpiece } from '@ivory/core/workpiece'
import { expect, it } from 'vitest'

it('the worked example of the file format reads, rebuilds and meets its brief', () => {
  const text = readFileSync(new URL('../../docs/file-format.md', import.meta.url), 'utf8')
  const example = /```json\n([\s\S]*?)```/.exec(text)![1]!
  const w = readWorkpiece(example)
  if (!w.ok) throw new Error(w.diagnosis.message)
  const built = rebuild(w.value)
  expect(built.reports.map((r) => r.status)).toEqual(['ok', 'ok', 'ok', 'ok'])
  // Reference row B1: brim of the rounded cylinder, 341.94243474 ml
  expect(readGauges(w.value, built)[0]).toMatchObject({ verdict: 'holds' })
  expect(readGauges(w.value, built)[0]!.reading!.low).toBeCloseTo(341.94243474, 5)
})
