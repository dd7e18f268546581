import 'fake-indexeddb/auto'
import { emptyWorkpiece } from '@ivory/core/workpiece'
import { expect, test } from 'vitest'
import { docOf, dropProof, dropProofsOf, keepProof, type Proof, proofsOf } from './proofs'

const proof = (id: string, workpiece: string, made: number): Proof => ({
  id,
  workpiece,
  name: `Proof ${id}`,
  made,
  doc: emptyWorkpiece(workpiece, 'Cup'),
  readings: [],
  bodies: [],
})

test('proofs are kept by workpiece, the newest first, dropped and kept again', async () => {
  for (const p of [proof('a', 'w1', 1), proof('b', 'w2', 2), proof('c', 'w1', 3)])
    await keepProof(p)
  expect((await proofsOf('w1')).map((p) => p.id)).toEqual(['c', 'a'])
  await dropProof('c')
  expect((await proofsOf('w1')).map((p) => p.id)).toEqual(['a'])
  const gone = await dropProofsOf('w1')
  expect(await proofsOf('w1')).toEqual([])
  expect((await proofsOf('w2')).map((p) => p.id)).toEqual(['b'])
  for (const p of gone) await keepProof(p)
  expect((await proofsOf('w1')).map((p) => p.id)).toEqual(['a'])
})

test('a document that is none any more is refused in a sentence', () => {
  const broken = { ...proof('x', 'w', 1), doc: { format: 'other' } as never }
  expect(() => docOf(broken)).toThrow(/\w+ .+\./)
  expect(docOf(proof('y', 'w', 1)).name).toBe('Cup')
})
