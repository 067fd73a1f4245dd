// Everything that has to hold before a change is done: format, lint, layers, unused code, types, unit tests, build, end-to-end tests.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { build } from './build.mjs'
import { installBrowser, installPackages, root } from './setup.mjs'

const startedAt = Date.now()
installPackages()
installBrowser()

const bin = (name) => (name === 'node' ? process.execPath : join(root, 'node_modules/.bin', name))
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
const checks = [
  () => step('lint', 'eslint', ['.', '--max-warnings', '0'], true),
  () => step('types: web', 'vue-tsc', ['-p', 'web'], true),
  () => step('format', 'prettier', ['--check', '--log-level', 'warn', '.'], true),
  () =>
    step('layers', 'depcruise', ['core', 'contract', 'server', 'web', 'demo', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'], true),
  () => step('unused code', 'knip', ['--no-progress'], true),
  ...types,
]
const lane = async () => {
  for (let next = checks.shift(); next; next = checks.shift()) await next()
}
await Promise.all([lane(), lane()])
await step('unit tests', 'vitest', ['run', '--project', 'unit', '--project', 'web'])
await step('server tests on PostgreSQL', 'node', ['scripts/testPostgres.mjs'])
try {
  build()
  console.log('ok   build')
  passed += 1
  await step('end-to-end tests', 'vitest', ['run', '--project', 'e2e'])
} catch (error) {
  failed += 1
  console.log(`FAIL build: ${error.message}`)
}
console.log(`\n${((Date.now() - startedAt) / 1000).toFixed(0)} s`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
