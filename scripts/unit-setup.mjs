// Before the unit tests: what they run as a process or thread is built.
import { buildNode } from './build.mjs'

export default buildNode
