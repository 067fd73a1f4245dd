import { copyFileSync, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { verifyChain } from './kernel/auditChain'
import { readConfig } from './kernel/config'
import { openDatabase } from './kernel/database'
import { lockHolder } from './kernel/dataLock'
import { backUp } from './kernel/housekeeping'
import { verifyLedger } from './run/verifyLedger'

const config = readConfig(process.env)
const file = join(config.dataFolder, 'nemawashi.sqlite')

async function verify(): Promise<boolean> {
  const database = await openDatabase(config.dataFolder)
  const chain = await verifyChain(database.reader.manager)
  const ledger = await verifyLedger(database.reader.manager)
  await database.close()
  console.log(
    chain.breaks.length === 0
      ? `The audit chain is whole: ${chain.entries} entries.`
      : `The audit chain is BROKEN after ${chain.entries} entries read:\n  ${chain.breaks.join('\n  ')}`,
  )
  console.log(ledger.length === 0 ? 'The ledger adds up.' : `The ledger does NOT add up:\n  ${ledger.join('\n  ')}`)
  return chain.breaks.length === 0 && ledger.length === 0
}

async function backup(target: string | undefined): Promise<boolean> {
  const folder = join(config.dataFolder, 'backups')
  mkdirSync(folder, { recursive: true })
  const to = target === undefined ? join(folder, `${new Date().toISOString().replaceAll(/[:.]/g, '-')}.sqlite`) : resolve(target)
  const database = await openDatabase(config.dataFolder)
  await backUp(database.writer, to)
  await database.close()
  console.log(`Backed up to ${to}`)
  return true
}

function restore(from: string | undefined): boolean {
  if (from === undefined || !existsSync(from)) {
    console.error(`Received "${from ?? ''}". Name an existing backup file: npm run restore -- FILE`)
    return false
  }
  const holder = lockHolder(config.dataFolder)
  if (holder !== null) {
    console.error(`A server (process ${holder}) is using ${config.dataFolder}. Stop it first.`)
    return false
  }
  mkdirSync(config.dataFolder, { recursive: true })
  if (existsSync(file)) renameSync(file, `${file}.before-restore`)
  for (const ending of ['-wal', '-shm']) rmSync(`${file}${ending}`, { force: true })
  copyFileSync(from, file)
  console.log(`Restored ${from}. What was there before is kept at ${file}.before-restore`)
  return true
}

const [command, argument] = process.argv.slice(2)
if (command !== 'restore' && !existsSync(file)) {
  console.error(`There is no database in ${config.dataFolder}. Set NEMAWASHI_DATA to the folder that holds it.`)
  process.exit(1)
}
const isDone =
  command === 'verify' ? await verify() : command === 'backup' ? await backup(argument) : command === 'restore' ? restore(argument) : false
if (!isDone && !['verify', 'backup', 'restore'].includes(command ?? '')) console.error('Commands: verify, backup [FILE], restore FILE')
process.exit(isDone ? 0 : 1)
