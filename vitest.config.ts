import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** Files that take longest go first, so that both workers end about together. */
const LONG = [
  'demo/src/demo.test',
  'demo/src/freeform.test',
  'demo/src/figures.test',
  'rebuild/squeezed.test',
  'rebuild/hollowtubes.test',
  'rebuild/runningon.test',
  'rebuild/hollowing.test',
  'solver/faroff.test',
  'exact/lies.test',
  'release/solids.test',
  'rebuild/caging.test',
  'rebuild/ranges.test',
]
class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification) => {
      const k = LONG.findIndex((l) => moduleId.includes(l))
      return k === -1 ? LONG.length : k
    }
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b))
  }
}

export default defineConfig({
  test: {
    // The command line and the server's thread are tested as the files they are built into.
    globalSetup: 'scripts/unit-setup.mjs',
    setupFiles: 'scripts/seed.mjs',
    include: ['{core,web,server,cli,demo}/src/**/*.test.ts'],
    // Two at a time, on two cores too, where the default is one.
    maxWorkers: 2,
    // The kernel is loaded once a worker, not once a file.
    isolate: false,
    sequence: { sequencer: LongFirst },
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
})
