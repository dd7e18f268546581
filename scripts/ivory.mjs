// npm run ivory: the command line, built first where that is needed.

import { buildNode } from './build.mjs'
import { installPackages } from './common.mjs'

installPackages()
buildNode()
await import('../dist/ivory.js')
