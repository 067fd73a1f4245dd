// Everything that has to hold before a change is done: format, lint, layers, unused code, types, unit tests, build, end-to-end tests.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { root } from './setup.mjs'

const startedAt = Date.now()
// Nothing but the last tests needs the browser: it is fetched beside everything else.
const browser = install('browser', "import('./scripts/setup.mjs').then(({ installBrowser }) => installBrowser())")
let beginChecks = () => undefined
const fetched = new Promise((done) => (beginChecks = done))
const packages = install(
  'packages',
  "import('./scripts/setup.mjs').then(({ installPackages }) => installPackages(() => process.send('fetched')))",
  beginChecks,
)
// What has to be compiled is needed by what runs, not by what reads.
if (!(await Promise.race([fetched.then(() => true), packages]))) process.exit(1)

/** Installs something beside what else goes on, and says so. */
function install(words, code, hear = () => undefined) {
  const began = Date.now()
  return new Promise((done) =>
    spawn(process.execPath, ['-e', code], { cwd: root, stdio: ['inherit', 'inherit', 'inherit', 'ipc'] })
      .on('message', hear)
      .on('close', (status) => {
        console.log(`${status === 0 ? 'ok  ' : 'FAIL'} installing: ${words} (${((Date.now() - began) / 1000).toFixed(1)} s)`)
        done(status === 0)
      }),
  )
}

/** `tsc`: the compiler's native build, three times as quick; what reads types as a library (lint, pages) needs the other one. */
const native = join(root, 'node_modules/typescript-native/bin/tsc')
const bin = (name) => (name === 'node' ? process.execPath : name === 'tsc' ? native : join(root, 'node_modules/.bin', name))
let passed = 0
let failed = 0

/** Runs one step, quietly when it is a check, and counts the tests that it reports. */
function step(words, command, args, isQuiet = false) {
  return new Promise((done) => {
    const began = Date.now()
    let output = ''
    const child = spawn(bin(command), args, { cwd: root, env: { ...process.env, FORCE_COLOR: '0' } })
    const take = (chunk) => {
      output += chunk
      if (!isQuiet) process.stdout.write(chunk)
    }
    child.stdout.on('data', take)
    child.stderr.on('data', take)
    child.on('close', (code) => {
      const line = [...output.matchAll(/^(\d+) passed, (\d+) failed$/gm)].at(-1)
      if (line) {
        passed += Number(line[1])
        failed += Number(line[2])
      } else if (code === 0) passed += 1
      if (code !== 0 && (!line || line[2] === '0')) failed += 1
      if (code !== 0 && isQuiet) process.stdout.write(output)
      console.log(`${code === 0 ? 'ok  ' : 'FAIL'} ${words} (${((Date.now() - began) / 1000).toFixed(1)} s)`)
      done(code === 0)
    })
  })
}

const types = [
  // The two that must do without Node stand alone; everything that runs on it is read once, together.
  () => step('types: core', 'tsc', ['-p', 'core'], true),
  () => step('types: contract', 'tsc', ['-p', 'contract'], true),
  () => step('types: server, demo, e2e, bench, scripts', 'tsc', ['-p', 'tsconfig.node.json'], true),
]
let isBuilt = false
const checks = [
  () => step('lint', 'eslint', ['.', '--max-warnings', '0'], true),
  () => step('types: web', 'vue-tsc', ['-p', 'web'], true),
  () => step('format', 'prettier', ['--check', '--log-level', 'warn', '.'], true),
  // They ask no database.
  () => step('tests: web', 'vitest', ['run', '--project', 'web*']),
  async () => {
    if (!(await packages)) process.exit(1)
    isBuilt = await step('build', 'node', ['scripts/build.mjs'], true)
    if (isBuilt) await step('demo plant', 'tsx', ['-e', "import('./e2e/installation.ts').then(({ demoFolder }) => demoFolder())"], true)
  },
  () =>
    step('layers', 'depcruise', ['core', 'contract', 'server', 'web', 'demo', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'], true),
  () => step('unused code', 'knip', ['--no-progress'], true),
  ...types,
]
const lane = async () => {
  for (let next = checks.shift(); next; next = checks.shift()) await next()
}
await Promise.all([lane(), lane()])
await step('unit tests', 'vitest', ['run', '--project', 'unit'])
// One after the other: Debian's packages are installed by one at a time.
const hasBrowser = await browser
await step('server tests on PostgreSQL', 'node', ['scripts/testPostgres.mjs', '--chosen'])
if (isBuilt && hasBrowser) await step('end-to-end tests', 'vitest', ['run', '--project', 'e2e'])
else {
  failed += 1
  console.log('FAIL end-to-end tests: they need the build and the browser')
}
console.log(`\n${((Date.now() - startedAt) / 1000).toFixed(0)} s`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
