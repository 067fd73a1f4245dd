import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { chainKey, HeadFile, readHead, signHead } from './kernel/chainHead'
import { readConfig, type Config } from './kernel/config'
import { addressOf, snapshotOf } from './kernel/database'
import { copyDatabase, databaseFile } from './kernel/dialect/sqliteDatabase'
import { headOf } from './kernel/auditChain'
import { takeLock } from './kernel/dataLock'
import { shownAddress } from './kernel/dialect/postgres'
import { movePlant } from './kernel/movePlant'
import { headOfFile, restore } from './kernel/restore'
import { verifyPlant, type Anchors } from './kernel/verifyPlant'
import { schema, verifications } from './app/areas'

// What it writes is for whoever runs it, and for nobody else on the machine.
process.umask(0o077)

const usage = `Usage: node server/dist/cli.js COMMAND   (the folder is the one in NEMAWASHI_DATA)

  verify [--heads FILE] [--head SEQ:DIGITS]
      Reads the whole plant and names what does not fit; ends with 1 when something does not. Writes nothing.
      --heads FILE       a file that "head FILE" wrote: every head in it has to be in the chain
      --head SEQ:DIGITS  what the foot of a printed report says of the chain
  ledger                 proves the balances from the movements; ends with 1 when one does not fit. Writes nothing.
  head [FILE]            prints how far the chain goes, sealed; with FILE: adds it to that file as a line
  backup [FILE]          copies the database while the server runs, as of one moment
  restore FILE           checks a copy and puts it back; what was there is kept
  move --to ADDRESS      carries the plant to an empty database on a PostgreSQL server, postgres://name@host/plant;
                         proved on both sides, the file stays as it is
  help                   this text`

/** The head outside the database, where there is one; without the key its seal is not checked. */
function anchorsOf(config: Config, args: readonly string[]): Anchors {
  const has = existsSync(config.chainKeyFile)
  const said = new HeadFile(config.chainHeadFile, Buffer.alloc(0)).read()
  const heads = said === null ? [] : [{ where: config.chainHeadFile, head: said }]
  const onPaper: { seq: number; hash: string }[] = []
  args.forEach((word, i) => {
    const value = args[i + 1] ?? ''
    if (word === '--heads') {
      for (const line of readFileSync(value, 'utf8').split('\n').filter(Boolean)) heads.push({ where: value, head: readHead(line) ?? 'damaged' })
    }
    if (word === '--head') {
      const [, seq, hash] = /^(\d+):([0-9a-f]{8,64})$/.exec(value) ?? []
      if (seq === undefined || hash === undefined) throw new Error(`Received --head "${value}". Write it like 1234:9f86d081884c7d65.`)
      onPaper.push({ seq: Number(seq), hash })
    }
  })
  return { heads, onPaper, also: verifications, ...(has ? { key: chainKey(config.chainKeyFile) } : {}) }
}

async function verify(config: Config, args: readonly string[]): Promise<boolean> {
  const { entries, breaks, head } = await verifyPlant(addressOf(config), schema, anchorsOf(config, args))
  console.log(
    breaks.length === 0
      ? `Everything fits: ${entries} entries in the audit chain (the last one ${head.seq}:${head.hash.slice(0, 16)}), every row as it was written, the ledger adds up.`
      : `NOT WHOLE, after ${entries} entries of the audit chain:\n  ${breaks.join('\n  ')}`,
  )
  return breaks.length === 0
}

async function ledger(config: Config): Promise<boolean> {
  const snapshot = await snapshotOf(addressOf(config), schema)
  const breaks: string[] = []
  for (const verifies of verifications) breaks.push(...(await verifies(snapshot.connection)))
  await snapshot.close()
  console.log(breaks.length === 0 ? 'Every lot adds up, and every balance is the sum of its movements.' : `NOT WHOLE:\n  ${breaks.join('\n  ')}`)
  return breaks.length === 0
}

async function sayHead(config: Config, file: string | undefined): Promise<boolean> {
  const snapshot = await snapshotOf(addressOf(config), schema)
  const head = signHead(chainKey(config.chainKeyFile), await headOf(snapshot.connection), new Date().toISOString())
  await snapshot.close()
  console.log(JSON.stringify(head))
  if (file !== undefined) appendFileSync(resolve(file), `${JSON.stringify(head)}\n`)
  return true
}

function backup(config: Config, target: string | undefined): boolean {
  const folder = join(config.dataFolder, 'backups')
  mkdirSync(folder, { recursive: true })
  const to = target === undefined ? join(folder, `${new Date().toISOString().replaceAll(/[:.]/g, '-')}.sqlite`) : resolve(target)
  copyDatabase(databaseFile(config.dataFolder), to)
  appendFileSync(`${to}.head`, `${JSON.stringify(signHead(chainKey(config.chainKeyFile), headOfFile(to), new Date().toISOString()))}\n`)
  console.log(`Backed up to ${to}`)
  return true
}

async function move(config: Config, args: readonly string[]): Promise<boolean> {
  if (config.databaseServer !== null) throw new Error('The plant is on a server already. Leave NEMAWASHI_DATABASE out to move the one in the file.')
  const address = args[args.indexOf('--to') + 1] ?? ''
  const release = takeLock(config.dataFolder)
  try {
    await movePlant(config.dataFolder, address, schema, anchorsOf(config, []), (words) => console.log(words))
    console.log(
      `Moved. Start the server with NEMAWASHI_DATABASE=${shownAddress(address)} from now on; the file in ${config.dataFolder} is as it was and no longer used.`,
    )
    return true
  } finally {
    release()
  }
}

async function run([command, ...args]: readonly string[]): Promise<boolean> {
  if (command === undefined || ['help', '--help', '-h'].includes(command) || args.includes('--help')) {
    console.log(usage)
    return command !== undefined
  }
  const config = readConfig(process.env)
  if (config.databaseServer !== null && (command === 'restore' || command === 'backup'))
    throw new Error(`The plant is on a server: copy it with pg_dump and put it back with pg_restore. See docs/server.md.`)
  if (command === 'restore') return restore(config, schema, args[0])
  if (config.databaseServer === null && !existsSync(databaseFile(config.dataFolder)))
    throw new Error(`There is no database in ${config.dataFolder}. Set NEMAWASHI_DATA to the folder that holds it.`)
  if (command === 'move') return move(config, args)
  if (command === 'verify') return verify(config, args)
  if (command === 'ledger') return ledger(config)
  if (command === 'head') return sayHead(config, args[0])
  if (command === 'backup') return backup(config, args[0])
  throw new Error(`There is no command "${command}".\n\n${usage}`)
}

let isDone = false
try {
  isDone = await run(process.argv.slice(2))
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error))
}
process.exit(isDone ? 0 : 1)
