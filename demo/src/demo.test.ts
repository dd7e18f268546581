import { type Rebuilt, readGauges } from '@ivory/core/rebuild'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoSet, startingPieces } from '.'
import { whole } from './whole.test-data'

describe.each([...demoSet(), ...startingPieces()].map((w) => [w.name, w] as const))(
  '%s',
  (_, w) => {
    let built: Rebuilt
    beforeAll(async () => {
      built = await whole(w)
    })
    it('rebuilds without a failure and with no warning but details finer than the wall', () => {
      for (const r of built.reports) {
        const rest = r.diagnoses.filter((d) => d.code !== 'detail-lost')
        expect(rest.map((d) => `${r.id}: ${d.message}`)).toEqual([])
        expect(r.status).toBe(r.diagnoses.length > 0 ? 'warn' : 'ok')
      }
    })
    it('meets its brief', () => {
      for (const g of readGauges(w, built)) {
        expect(`${g.kind} ${g.reading?.text ?? g.why} ${g.verdict}`).not.toMatch(/ out$/)
      }
    })
  },
)
