import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { hasPostgres, startPostgres } from '../../scripts/postgres.mjs'
import { password, preparePlant } from './fill'
import { Wire, type Row } from './measure'
import { root, startProcess, stopped } from './processes'
import { readingWriter } from './readingWriter'

const people = 24
const rounds = 3
const each = 40
/** Pages that are looked at for each reading, where people look as well. */
const looks = ['/api/v1/inspections?limit=50', '/api/v1/lots?limit=50', '/api/v1/today', '/api/v1/stock?limit=50']

/** One plant on a database server, served by one, two and three processes: readings alone, and readings among people who look. */
export async function benchSeveralServers(): Promise<Row[]> {
  if (!hasPostgres()) {
    console.log('servers is left out: there is no PostgreSQL server here (apt-get install postgresql).')
    return []
  }
  const folders = Array.from({ length: 3 }, () => mkdtempSync(join(tmpdir(), 'nemawashi-bench-')))
  const [first = ''] = folders
  const database = await startPostgres()
  const { inspectionId, lineId } = await preparePlant(first, 100_000)
  const moved = spawnSync('node', ['server/dist/cli.js', 'move', '--to', database.address], {
    cwd: root,
    env: { ...process.env, NEMAWASHI_DATA: first },
    encoding: 'utf8',
  })
  if (moved.status !== 0) throw new Error(`The plant could not be moved: ${moved.stdout}${moved.stderr}`)
  for (const folder of folders.slice(1)) cpSync(join(first, 'chain.key'), join(folder, 'chain.key'))
  const start = (folder: string) =>
    startProcess('node', ['server/dist/main.js'], { NEMAWASHI_DATA: folder, NEMAWASHI_DATABASE: database.address, PORT: '0', NEMAWASHI_LOG: 'error' })
  const servers: Awaited<ReturnType<typeof start>>[] = []
  for (const folder of folders) servers.push(await start(folder))
  const signedIn = new Wire(servers[0]?.base ?? '')
  await signedIn.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const writeOne = readingWriter(inspectionId, lineId)

  /** Changes a second of all people together, spread over the first so many servers. */
  async function rate(count: number, isLooking: boolean): Promise<number> {
    const wires = Array.from({ length: people }, (_, i) => {
      const wire = new Wire(servers[i % count]?.base ?? '')
      wire.cookie = signedIn.cookie
      return wire
    })
    const work = async (wire: Wire) => {
      for (let i = 0; i < each; i++) {
        await writeOne(wire)
        if (isLooking) await wire.send('GET', looks[i % looks.length] ?? '')
      }
    }
    const before = performance.now()
    await Promise.all(wires.map(work))
    const taken = performance.now() - before
    for (const wire of wires) wire.close()
    return (1000 * people * each) / taken
  }

  const rows: Row[] = []
  await rate(3, true)
  for (const [what, isLooking, target] of [
    ['readings alone', false, 0.8],
    ['a look with each', true, 1],
  ] as const) {
    const best = [0, 0, 0]
    for (let round = 0; round < rounds; round++)
      for (const count of [1, 2, 3]) best[count - 1] = Math.max(best[count - 1] ?? 0, await rate(count, isLooking))
    const [one = 1] = best
    for (const count of [2, 3]) {
      const ours = best[count - 1] ?? 0
      rows.push({
        what: `${people} people at ${count} servers, ${what}`,
        ours: `${Math.round(ours)} /s`,
        bare: `${Math.round(one)} /s at one`,
        ratio: `${(ours / one).toFixed(2)} ×`,
        target: `≥ ${target} ×`,
        isMet: ours / one >= target,
      })
    }
  }
  signedIn.close()
  for (const { child } of servers) await stopped(child)
  await database.stop()
  for (const folder of folders) rmSync(folder, { recursive: true, force: true })
  return rows
}
