import { spawnSync } from 'node:child_process'

/**
 * Changes the code in one place after the other and runs the tests that reach it; what no test notices is listed.
 * Usage: npm run mutate                     the files that differ from main, or from the commit before where nothing does
 *        npm run mutate -- FOLDER|FILE …    those; only core and server, whose tests need no page
 */
const git = (...args) =>
  spawnSync('git', args, { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((line) => line !== '')
const isOurs = (file) => /^(core|server)\/src\/.+\.ts$/.test(file) && !/\.test\.ts$|\/(testing|migrations)\/|area\.ts$|entities\.ts$/i.test(file)

const wanted = process.argv.slice(2).map((word) => word.replace(/\/$/, ''))
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
const packages = [...new Set(files.map((file) => file.split('/')[0]))]
console.log(`Changing ${files.length} files, tried with the tests of ${packages.join(' and ')}.`)
const { status } = spawnSync('npx', ['stryker', 'run', '--mutate', files.join(',')], {
  stdio: 'inherit',
  env: { ...process.env, MUTATE_TESTS: packages.join(',') },
})
process.exit(status ?? 1)
