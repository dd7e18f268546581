// npm start: installs, builds and serves the app on a printed local address.
import { installPackages, must } from './common.mjs'

installPackages()
must('npm', ['run', '-s', 'build'])
must('node', ['dist/server.js'])
