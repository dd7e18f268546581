import * as fc from 'fast-check'

// Property tests draw the same routes every time, so that a red run tells of a change; `npm run hunt` draws new ones (SEED=n repeats one).
const { SEED = '20261202' } = process.env
if (SEED !== 'new') fc.configureGlobal({ seed: Number(SEED) })
