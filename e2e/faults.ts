/** What a plant must outlive, done to a built server: killed, without room on its disk, with rows changed behind its back, asked for nonsense. */
import { spawnSync } from 'node:child_process'
import { copyFileSync, statSync } from 'node:fs'
import { get } from 'node:http'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { addressOf, allEndpoints, endpoints, roles } from '@nemawashi/contract'
import type { ApiError } from '@nemawashi/contract/client'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { demoFolder, Installation, onServer } from './installation'

const { people, define } = endpoints

export interface Outcome {
  readonly name: string
  /** What was counted, for the table that is printed. */
  readonly figures: Readonly<Record<string, number>>
  /** What did not hold; empty when all did. */
  readonly failures: readonly string[]
}

export async function signedIn(installation: Installation, signInName: string): Promise<ApiClient> {
  const client = new ApiClient(installation.base)
  await client.call(people.signIn, { body: { signInName, password } })
  return client
}

/** A change that is told apart from all others; its code where it was acknowledged, null where it was refused or nothing came back. */
async function change(client: ApiClient, code: string): Promise<string | null> {
  try {
    await client.call(define.families.create, { body: { code, name: code } as never })
    return code
  } catch {
    return null
  }
}

async function codesThere(client: ApiClient, prefix: string): Promise<string[]> {
  const found: string[] = []
  let after: string | undefined
  do {
    const page = await client.call(define.families.list, { query: { q: prefix, limit: 200, ...(after === undefined ? {} : { after }) } })
    found.push(...(page.rows as { code: string }[]).map(({ code }) => code))
    after = page.next ?? undefined
  } while (after !== undefined)
  return found
}

function compare(acknowledged: readonly string[], kept: readonly string[]): string[] {
  const known = new Set(kept)
  const lost = acknowledged.filter((code) => !known.has(code))
  return [
    ...(lost.length > 0 ? [`${lost.length} acknowledged changes are lost`] : []),
    ...(known.size < kept.length ? ['changes are there twice'] : []),
  ]
}

/** Killed in the middle of writing, again and again: nothing that was acknowledged is lost or doubled, and the plant verifies. */
export async function killRounds(rounds: number): Promise<Outcome> {
  const installation = await Installation.start(demoFolder())
  const failures: string[] = []
  const acknowledged: string[] = []
  try {
    for (let round = 0; round < rounds; round++) {
      const client = await signedIn(installation, 'ilse')
      let isRunning = true
      const writers = Array.from({ length: 4 }, async (_, writer) => {
        for (let i = 0; isRunning; i++) {
          const code = await change(client, `K${round}-${writer}-${i}`)
          if (code !== null) acknowledged.push(code)
          else if (isRunning) await new Promise((resolve) => setTimeout(resolve, 5))
        }
      })
      // Moments that differ from round to round, the same in every campaign.
      await new Promise((resolve) => setTimeout(resolve, 40 + ((round * 37) % 160)))
      await installation.end('SIGKILL')
      isRunning = false
      await Promise.all(writers)
      await installation.begin()
    }
    failures.push(...compare(acknowledged, await codesThere(await signedIn(installation, 'ilse'), 'K')))
    await installation.end()
    const { status, output } = installation.command('verify')
    if (status !== 0) failures.push(output)
  } finally {
    await installation.remove()
  }
  return { name: 'killed while writing', figures: { rounds, acknowledged: acknowledged.length }, failures }
}

/** The files may grow no further (a database server has its own): changes are refused with a word, the rest goes on, and there is room again without a restart. */
export async function fullDisk(): Promise<Outcome> {
  if (process.env['NEMAWASHI_TEST_POSTGRES']) return { name: 'no room on the disk', figures: { skipped: 1 }, failures: [] }
  const installation = await Installation.start(demoFolder(), 1024)
  const failures: string[] = []
  const acknowledged: string[] = []
  let refused = 0
  try {
    const client = await signedIn(installation, 'ilse').catch(() => null)
    if (client === null) return { name: 'no room on the disk', figures: {}, failures: ['nobody could sign in with room for a megabyte'] }
    const write = async (count: number, prefix: string) => {
      for (let i = 0; i < count; i++) {
        const code = await change(client, `${prefix}-${i}`)
        if (code === null) refused += 1
        else acknowledged.push(code)
      }
    }
    for (let round = 0; refused === 0 && round < 60; round++) await write(20, `F${round}`)
    const before = refused
    await write(20, 'FX')
    if (before === 0) failures.push('the disk was never full')
    const health = await fetch(`${installation.base}/api/v1/health`).then((response) => response.json() as Promise<{ status: string }>)
    if (health.status !== 'notStoring') failures.push(`health says ${health.status} while nothing can be stored`)
    if (spawnSync('prlimit', ['--version']).status === 0) {
      spawnSync('prlimit', [`--pid=${installation.pid}`, '--fsize=unlimited:unlimited'])
      const at = acknowledged.length
      await write(5, 'FY')
      if (acknowledged.length !== at + 5) failures.push('with room again changes are still refused')
    }
    await installation.end('SIGKILL')
    await installation.begin()
    failures.push(...compare(acknowledged, await codesThere(await signedIn(installation, 'ilse'), 'F')).filter((words) => !words.includes('twice')))
    await installation.end()
    const { status, output } = installation.command('verify')
    if (status !== 0) failures.push(output)
  } finally {
    await installation.remove()
  }
  return { name: 'no room on the disk', figures: { acknowledged: acknowledged.length, refused }, failures }
}

const tamperings: Readonly<Record<string, string>> = {
  reading: `UPDATE reading SET value = '0.30', mark = 'conforming' WHERE id IN (SELECT id FROM reading WHERE mark = 'nonconforming' LIMIT 1)`,
  decision: `UPDATE decision_part SET disposition = 'release' WHERE decision_id = (SELECT MIN(decision_id) FROM decision_part WHERE disposition <> 'release') AND disposition <> 'release'`,
  verdict: `UPDATE inspection SET verdict = 'acceptable' WHERE id = (SELECT id FROM inspection WHERE verdict = 'notAcceptable' LIMIT 1)`,
  role: `UPDATE person SET roles = '["administrator"]' WHERE sign_in_name = 'dario'`,
  session: `INSERT INTO session (token_hash, person_id, created_at, expires_at, agent) SELECT 'f', id, '', '9', '' FROM person LIMIT 1`,
  movement: `UPDATE movement SET quantity = quantity + 1 WHERE seq = 1`,
  chain: `DELETE FROM audit WHERE seq > (SELECT MAX(seq) - 5 FROM audit); UPDATE sqlite_sequence SET seq = (SELECT MAX(seq) FROM audit) WHERE name = 'audit'`,
  guard: `DROP TRIGGER "lot_quantity_stays"`,
}

/** The same where the plant is on a database server, by somebody who may do everything there; each on the database as it was before. */
async function tamperedOnServer(installation: Installation, address: string): Promise<Outcome> {
  const failures: string[] = []
  const name = new URL(address).pathname.slice(1)
  const server = new URL(address)
  server.pathname = '/postgres'
  await onServer(server.toString(), `CREATE DATABASE ${name}_whole TEMPLATE ${name}`)
  for (const [what, sql] of Object.entries(tamperings)) {
    await onServer(server.toString(), `DROP DATABASE ${name}`, `CREATE DATABASE ${name} TEMPLATE ${name}_whole`)
    const statement = sql.replace(/;[^;]*sqlite_sequence[^;]*/, '').replace(/^(DROP TRIGGER \S+)$/, '$1 ON lot')
    await onServer(address, 'SET session_replication_role = replica', statement)
    if (installation.command('verify').status !== 1) failures.push(`a changed ${what} is not discovered`)
  }
  await onServer(server.toString(), `DROP DATABASE ${name}_whole`)
  return { name: 'changed behind its back', figures: { ways: Object.keys(tamperings).length }, failures }
}

/**
 * Rows changed behind the server's back, each on a copy: the verification names every one.
 * @param of every which way is tried: each has a test without the command line, too
 */
export async function tampered(places = 1): Promise<Outcome> {
  const installation = await Installation.start(demoFolder())
  const failures: string[] = []
  const file = join(installation.folder, 'nemawashi.sqlite')
  const ways = Object.entries(tamperings).filter((_, i) => i % places === 0)
  try {
    await installation.end()
    if (installation.command('verify').status !== 0) failures.push('the untouched plant does not verify')
    if (installation.address !== null) {
      const onServer = await tamperedOnServer(installation, installation.address)
      return { ...onServer, failures: [...failures, ...onServer.failures] }
    }
    copyFileSync(file, `${file}.whole`)
    for (const [what, sql] of ways) {
      copyFileSync(`${file}.whole`, file)
      // The guards are lifted for the change and put back as they were, but for the one that is dropped.
      const script = `const S = require('better-sqlite3'); const d = new S(process.argv[1]); d.pragma('foreign_keys = OFF');
        const guards = d.prepare("SELECT name, sql FROM sqlite_master WHERE type = 'trigger'").all();
        const isGuard = /^DROP/.test(process.argv[2]); if (!isGuard) for (const g of guards) d.exec('DROP TRIGGER "' + g.name + '"');
        d.exec(process.argv[2]); if (!isGuard) for (const g of guards) d.exec(g.sql); d.close()`
      const { status, stderr } = spawnSync('node', ['-e', script, file, sql], { encoding: 'utf8' })
      if (status !== 0) failures.push(`${what}: ${stderr.slice(0, 200)}`)
      else if (installation.command('verify').status !== 1) failures.push(`a changed ${what} is not discovered`)
    }
  } finally {
    await installation.remove()
  }
  return { name: 'changed behind its back', figures: { ways: ways.length }, failures }
}

const oddBodies: readonly unknown[] = [
  {},
  [],
  null,
  'x',
  { version: 'NaN', rows: [{}], lines: [null], id: {}, __proto__: { admin: true } },
  { quantity: 1e308, code: '\u0000', q: "'; DROP TABLE lot" },
]

/**
 * Every operation as every role and as a stranger, with odd bodies and sortings: never a 5xx, never something that the role may not.
 * @param rolesEach how many of the roles try each operation, in turn: that each is refused what it may not has a test without the network, too
 */
export async function hostileRequests(bodiesEach: number, rolesEach: number = roles.length): Promise<Outcome> {
  const installation = await Installation.start(demoFolder(), null, () => ({ NEMAWASHI_GIVEN_PASSWORDS: 'keep' }))
  const failures: string[] = []
  let requests = 0
  let slowestMs = 0
  const brokenOff: string[] = []
  const id = '01900000-0000-7000-8000-000000000000'
  try {
    const administrator = await signedIn(installation, 'mirela')
    const cookies = new Map<string, string>([['stranger', '']])
    for (const role of roles) {
      await administrator.call(people.createPerson, { body: { name: role, initials: 'X', signInName: `as ${role}`, roles: [role], password } })
      cookies.set(role, (await signedIn(installation, `as ${role}`)).cookies)
    }
    for (const [at, { endpoint }] of allEndpoints()
      .filter((entry) => !entry.endpoint.path.startsWith('/api/v1/session'))
      .entries()) {
      const tries = new Set(['stranger', ...Array.from({ length: rolesEach }, (_, i) => String(roles[(at + i) % roles.length]))])
      for (const [who, cookie] of cookies) {
        if (!tries.has(who)) continue
        const may =
          endpoint.access === 'anyone' ||
          (who !== 'stranger' && (endpoint.access === 'signedIn' || (endpoint.access as readonly string[]).includes(who)))
        for (let i = 0; i < bodiesEach; i++) {
          const isReading = endpoint.method === 'GET'
          const address = addressOf(endpoint, { params: { id }, query: isReading && i % 2 === 1 ? { sort: 'constructor', after: '][', q: '%' } : {} })
          const began = performance.now()
          const ask = () =>
            fetch(`${installation.base}${address}`, {
              method: endpoint.method,
              headers: { cookie, 'content-type': 'application/json' },
              ...(isReading ? {} : { body: JSON.stringify(oddBodies[(i + requests) % oddBodies.length]) }),
            })
          // A connection may be closed just as it is used again; a server that is gone does not answer the second time either.
          const response = await ask().catch((error: unknown) => {
            brokenOff.push(`${who} ${endpoint.method} ${address}: ${String((error as Error).cause)}`)
            return ask()
          })
          await response.arrayBuffer()
          requests += 1
          const took = performance.now() - began
          slowestMs = Math.max(slowestMs, took)
          if (took > 10_000) failures.push(`${who}: ${endpoint.method} ${address} takes ${Math.round(took)} ms`)
          if (response.status >= 500) failures.push(`${who}: ${endpoint.method} ${address} answers ${response.status}`)
          if (!may && ![401, 403].includes(response.status)) failures.push(`${who} may ${endpoint.method} ${address}: ${response.status}`)
        }
      }
    }
  } finally {
    await installation.remove()
  }
  return {
    name: 'asked for nonsense',
    figures: { requests, brokenOff: brokenOff.length, slowestMs: Math.round(slowestMs) },
    failures: failures.slice(0, 10),
  }
}

/** Asked over a connection of its own, as somebody else's would be: one that a bomb came over may be closed at any moment. */
export const healthOf = (base: string) =>
  new Promise<void>((resolve, reject) => {
    get(`${base}/api/v1/health`, { agent: false }, (response) => response.resume().on('end', resolve)).on('error', reject)
  })

/** Small requests that stand for large work, and guesses by the hundred: others are served meanwhile. */
export async function bombsAndGuesses(guesses: number): Promise<Outcome> {
  const installation = await Installation.start(demoFolder())
  const failures: string[] = []
  let slowestMs = 0
  let looked = 0
  try {
    const send = (path: string, body: string | Uint8Array, headers: Record<string, string> = {}) =>
      fetch(`${installation.base}${path}`, { method: 'POST', body: body as never, headers: { 'content-type': 'application/json', ...headers } }).then(
        (response) => response.status,
      )
    const asked: Promise<void>[] = []
    const watch = setInterval(() => {
      const began = performance.now()
      const took = () => void (slowestMs = Math.max(slowestMs, performance.now() - began))
      asked.push(healthOf(installation.base).then(took, (error: unknown) => void failures.push(`somebody else was not answered: ${String(error)}`)))
    }, 50)
    const deep = `${'['.repeat(3_000_000)}${']'.repeat(3_000_000)}`
    const bomb = gzipSync(deep)
    await Promise.all(Array.from({ length: 20 }, () => send('/api/v1/documents', bomb, { 'content-encoding': 'gzip' }).catch(() => 0)))
    await Promise.all(Array.from({ length: 5 }, () => send('/api/v1/documents', deep).catch(() => 0)))
    const outcomes = await Promise.all(
      Array.from({ length: guesses }, (_, i) =>
        new ApiClient(installation.base)
          .call(people.signIn, { body: { signInName: i % 2 === 0 ? 'anja' : ' Anja ', password: `guess ${i}` } })
          .catch((error: unknown) => (error as ApiError).reply?.code),
      ),
    )
    looked = outcomes.filter((code) => code === 'sign_in_failed').length
    clearInterval(watch)
    await Promise.all(asked)
    if (looked > 3) failures.push(`${looked} of ${guesses} guesses at once were looked at`)
    if (slowestMs > 3000) failures.push(`somebody else waited for ${Math.round(slowestMs)} ms`)
  } finally {
    await installation.remove()
  }
  return { name: 'bombs and guesses', figures: { guesses, looked, slowestMs: Math.round(slowestMs) }, failures }
}

/** Size of the demo's database, so that a reader of the figures knows what they were taken on. */
export const demoBytes = () => statSync(join(demoFolder(), 'nemawashi.sqlite')).size
