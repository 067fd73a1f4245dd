// For working on it: the pages with hot reload, and a server beside them that is built anew and restarted when its code changes.
//   npm run dev    pages at the address that is printed, the server on PORT (4720) with the data in NEMAWASHI_DATA (.data/demo)
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { build } from './build.mjs'
import { installPackages, root } from './setup.mjs'

installPackages()
build()
const folder = process.env.NEMAWASHI_DATA ?? join(root, '.data/demo')
if (!existsSync(folder))
  console.log(`There is nothing in ${folder} yet: npm run demo makes the demo plant, or enter the setup code below on the page.`)
const vite = join(root, 'node_modules/vite/bin/vite.js')
const started = [
  [vite, 'build', 'server', '-c', 'server/vite.config.ts', '--watch', '--logLevel', 'warn'],
  ['--watch', join(root, 'server/dist/main.js')],
  [vite, 'web', '-c', 'web/vite.config.ts'],
].map((words) => spawn('node', words, { stdio: 'inherit', env: { ...process.env, NEMAWASHI_DATA: folder } }))
const end = () => started.forEach((child) => child.kill())
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, end)
for (const child of started) child.on('exit', end)
