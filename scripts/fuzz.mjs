// Properties of the ledger with many more histories than a test run has time for: npm run fuzz [-- 20000]. In rounds, each on a new plant: what
// is slow in a plant with many thousand lots is no affair of theirs, and a round that fails is short enough to be run again.
import { spawn } from 'node:child_process'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { installPackages, root } from './setup.mjs'

installPackages()
const histories = Number(process.argv[2] ?? 20_000)
const perRound = 500
const files = ['server/src/run/identity.property.test.ts']
const begun = Date.now()
let [left, held] = [histories, 0]

/** One round; what it says is shown where it did not hold, with the seed that fails again. */
function round(times) {
  return new Promise((resolve) => {
    const child = spawn(join(root, 'node_modules/.bin/vitest'), ['run', '--project', 'unit', ...files], {
      cwd: root,
      env: { ...process.env, NEMAWASHI_FUZZ: String(times) },
    })
    let told = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (told += piece))
    child.on('close', (status) => {
      if (status !== 0) console.log(told)
      resolve(status === 0)
    })
  })
}
async function work() {
  while (left > 0) {
    const times = Math.min(perRound, left)
    left -= times
    if (!(await round(times))) return false
    held += times
    console.log(`${held} of ${histories} histories held, ${Math.round((Date.now() - begun) / 1000)} s`)
  }
  return true
}
const outcomes = await Promise.all(Array.from({ length: Math.max(1, availableParallelism() - 1) }, work))
process.exit(outcomes.every(Boolean) ? 0 : 1)
