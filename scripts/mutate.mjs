import { spawnSync } from 'node:child_process'

/**
 * Changes the code in one place after the other and runs the tests that reach it; what no test notices is listed.
 * Usage: npm run mutate                     the files that differ from main, or from the commit before where nothing does
 *        npm run mutate -- FOLDER|FILE …    those; only core and server, whose tests need no page
 *        … --tests=FOLDER,…                 tried with the tests of these folders alone: one area of the server instead of all of it
 */
const git = (...args) =>
  spawnSync('git', args, { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((line) => line !== '')
const isOurs = (file) => /^(core|server)\/src\/.+\.ts$/.test(file) && !/\.test\.ts$|\/(testing|migrations)\/|area\.ts$|entities\.ts$/i.test(file)

const words = process.argv.slice(2)
const tests = words.find((word) => word.startsWith('--tests='))?.slice('--tests='.length)
const wanted = words.filter((word) => !word.startsWith('--')).map((word) => word.replace(/\/$/, ''))
const changed = () => {
  const since = git('diff', '--name-only', 'main')
  return since.length > 0 ? since : git('diff', '--name-only', 'HEAD~1')
}
const all = wanted.length === 0 ? changed() : git('ls-files', ...wanted)
const files = all.filter(isOurs)
if (files.length === 0) {
  console.error(`Received ${wanted.join(' ') || 'nothing'}: no source of core or server is in it. Name a folder: npm run mutate -- core/src/ledger`)
  process.exit(1)
}
const folders = tests?.split(',') ?? [...new Set(files.map((file) => `${file.split('/')[0]}/src`))]
console.log(`Changing ${files.length} files, tried with the tests of ${folders.join(' and ')}.`)
const { status } = spawnSync('npx', ['stryker', 'run', '--mutate', files.join(',')], {
  stdio: 'inherit',
  env: { ...process.env, MUTATE_TESTS: folders.join(',') },
})
process.exit(status ?? 1)
