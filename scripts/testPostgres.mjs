// Runs the server's tests on a PostgreSQL server of their own: npm run test:postgres [-- FILES | --chosen]
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { hasPostgres, startPostgres } from './postgres.mjs'
import { postgresFiles } from './postgresFiles.mjs'
import { installPackages, root } from './setup.mjs'

installPackages()
if (!hasPostgres()) {
  console.log("Skipped: there is no PostgreSQL server here. Install Debian's package: apt-get install postgresql")
  process.exit(0)
}
const server = await startPostgres()
const asked = process.argv.slice(2)
const files = asked[0] === '--chosen' ? postgresFiles : asked
const { status } = spawnSync(join(root, 'node_modules/.bin/vitest'), ['run', '--project', 'unit', ...(files.length > 0 ? files : ['server/src'])], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, NEMAWASHI_TEST_POSTGRES: server.address },
})
await server.stop()
process.exit(status ?? 1)
