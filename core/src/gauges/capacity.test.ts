import { expect, it } from 'vitest'
import { shell } from '../turned'
import { POT, ROD, type turn } from '../turned/samples.test-data'
import { gaugeSpec, readWith, subjectOf } from '.'

const capacity = (b: ReturnType<typeof turn>) => readWith(gaugeSpec('capacity')!, subjectOf(b), {})

it('says of a hollow that is closed all round that nothing can be poured in, and how large it is', () => {
  const made = shell(ROD, 3, new Set(), 'in', 's')
  if (!made.ok) throw new Error(made.diagnosis.message)
  // pi 27^2 54 mm3
  expect(capacity(made.value.body)).toMatch(
    /Nothing can be poured in: the hollow of 123\.7 ml is closed/,
  )
})
it('names the air that stays under a lip turned in and down', () => {
  const read = capacity(POT)
  if (typeof read === 'string') throw new Error(read)
  // pi (38^2 - 27^2) 10 mm3
  expect(read.rows.find((r) => r.label.startsWith('air trapped'))!.text).toBe('22.5 ml')
  expect(read.places.map((p) => p.label)).toContain('trapped air')
})
