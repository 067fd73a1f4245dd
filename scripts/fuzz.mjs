// Properties of the ledger with many more histories than a test run has time for: npm run fuzz [-- 20000]
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { installPackages, root } from './setup.mjs'

installPackages()
const times = process.argv[2] ?? '20000'
const files = ['server/src/run/identity.property.test.ts']
const { status } = spawnSync(join(root, 'node_modules/.bin/vitest'), ['run', '--project', 'unit', ...files], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, NEMAWASHI_FUZZ: times },
})
process.exit(status ?? 1)
