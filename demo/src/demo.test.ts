import { readGauges, rebuild } from '@ivory/core/rebuild'
import { describe, expect, it } from 'vitest'
import { demoSet } from '.'

describe.each(demoSet().map((w) => [w.name, w] as const))('%s', (_, w) => {
  const built = rebuild(w)
  it('rebuilds without a failure and with no warning but details finer than the wall', () => {
    for (const r of built.reports) {
      const rest = r.diagnoses.filter((d) => d.code !== 'detail-lost')
      expect(rest.map((d) => `${r.id}: ${d.message}`)).toEqual([])
      expect(r.status).not.toBe('fail')
    }
  })
  it('meets its brief', () => {
    for (const g of readGauges(w, built)) {
      expect(`${g.kind} ${g.reading?.text ?? g.why} ${g.verdict}`).not.toMatch(/ out$/)
    }
  })
})
