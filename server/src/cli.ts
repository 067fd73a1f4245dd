import { appendFileSync, existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { chainKey, HeadFile, readHead, signHead } from './kernel/audit/chainHead'
import { readConfig, type Config } from './kernel/base/config'
import { addressOf, snapshotOf } from './kernel/work/database'
import { copyDatabase, databaseFile } from './kernel/database/sqlite/sqliteDatabase'
import { headOf } from './kernel/audit/auditChain'
import { takeLock } from './kernel/files/dataLock'
import { shownAddress } from './kernel/database/postgres/postgres'
import { movePlant } from './kernel/verify/movePlant'
import { headOfFile, restore } from './kernel/verify/restore'
import { isSealedBackup, openBackup, passphraseIn, sealBackup } from './kernel/files/sealedBackup'
import { verifyPlant, type Anchors } from './kernel/verify/verifyPlant'
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
  backup [FILE] [--passphrase-file FILE]
                         copies the database while the server runs, as of one moment; with a passphrase (the first line of that
                         file): encrypted, in the open format age, and nothing else of it is left
  restore FILE [--passphrase-file FILE]
                         checks a copy and puts it back; what was there is kept
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

async function describeHead(config: Config, file: string | undefined): Promise<boolean> {
  const snapshot = await snapshotOf(addressOf(config), schema)
  const head = signHead(chainKey(config.chainKeyFile), await headOf(snapshot.connection), new Date().toISOString())
  await snapshot.close()
  console.log(JSON.stringify(head))
  if (file !== undefined) appendFileSync(resolve(file), `${JSON.stringify(head)}\n`)
  return true
}

/** What stands after a flag, and the words without both. */
function taken(args: readonly string[], flag: string): { value: string | null; rest: readonly string[] } {
  const at = args.indexOf(flag)
  if (at < 0) return { value: null, rest: args }
  const value = args[at + 1]
  if (value === undefined) throw new Error(`After ${flag} the name of a file is missing.`)
  return { value, rest: args.filter((_, i) => i !== at && i !== at + 1) }
}

async function backup(config: Config, args: readonly string[]): Promise<boolean> {
  const { value, rest } = taken(args, '--passphrase-file')
  const passphrase = value === null ? null : passphraseIn(value)
  const folder = join(config.dataFolder, 'backups')
  mkdirSync(folder, { recursive: true })
  const name = `${new Date().toISOString().replaceAll(/[:.]/g, '-')}.sqlite`
  const to = rest[0] === undefined ? join(folder, passphrase === null ? name : `${name}.age`) : resolve(rest[0])
  // What is encrypted is copied beside the plant first: never to where the backup goes.
  const copy = passphrase === null ? to : join(config.dataFolder, `.copying-${name}`)
  try {
    copyDatabase(databaseFile(config.dataFolder), copy)
    const head = signHead(chainKey(config.chainKeyFile), headOfFile(copy), new Date().toISOString())
    if (passphrase !== null) await sealBackup(copy, to, passphrase)
    appendFileSync(`${to}.head`, `${JSON.stringify(head)}\n`)
  } finally {
    if (passphrase !== null) for (const ending of ['', '-wal', '-shm']) rmSync(`${copy}${ending}`, { force: true })
  }
  console.log(`Backed up to ${to}${passphrase === null ? '' : ', encrypted'}`)
  return true
}

/** Puts a copy back; one under a passphrase is opened beside the plant first, and gone afterwards. */
async function restoreBackup(config: Config, args: readonly string[]): Promise<boolean> {
  const { value, rest } = taken(args, '--passphrase-file')
  const [from] = rest
  if (from === undefined || !existsSync(from) || !statSync(from).isFile() || !isSealedBackup(from)) return restore(config, schema, from)
  if (value === null) throw new Error(`${from} is encrypted. Name the file with its passphrase: --passphrase-file FILE`)
  mkdirSync(config.dataFolder, { recursive: true })
  const opened = join(config.dataFolder, '.opened.sqlite')
  try {
    await openBackup(from, opened, passphraseIn(value))
    return await restore(config, schema, opened, from)
  } finally {
    for (const ending of ['', '-wal', '-shm']) rmSync(`${opened}${ending}`, { force: true })
  }
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
  if (command === 'restore') return restoreBackup(config, args)
  if (config.databaseServer === null && !existsSync(databaseFile(config.dataFolder)))
    throw new Error(`There is no database in ${config.dataFolder}. Set NEMAWASHI_DATA to the folder that holds it.`)
  if (command === 'move') return move(config, args)
  if (command === 'verify') return verify(config, args)
  if (command === 'ledger') return ledger(config)
  if (command === 'head') return describeHead(config, args[0])
  if (command === 'backup') return backup(config, args)
  throw new Error(`There is no command "${command}".\n\n${usage}`)
}

let isDone = false
try {
  isDone = await run(process.argv.slice(2))
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error))
}
process.exit(isDone ? 0 : 1)
