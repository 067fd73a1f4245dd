// The whole campaign of faults against the built server: npm run faults [-- --postgres]
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { build } from './build.mjs'
import { hasPostgres, startPostgres } from './postgres.mjs'
import { installPackages, root } from './setup.mjs'

installPackages()
build()
const isOnServer = process.argv.includes('--postgres')
if (isOnServer && !hasPostgres()) throw new Error("There is no PostgreSQL server here. Install Debian's package: apt-get install postgresql")
const server = isOnServer ? await startPostgres() : null
const { status } = spawnSync(
  join(root, 'node_modules/.bin/tsx'),
  ['e2e/faultsRun.ts', ...process.argv.slice(2).filter((word) => !word.startsWith('--'))],
  {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...(server === null ? {} : { NEMAWASHI_TEST_POSTGRES: server.address }) },
  },
)
await server?.stop()
process.exit(status ?? 1)
