import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Client } from 'pg'

/** The database server that plants are kept on; null: in files, as they are by default. */
const databaseServer = process.env['NEMAWASHI_TEST_POSTGRES'] ?? null
let made = 0

/** Statements on the database server, one after another. */
export async function onServer(address: string, ...statements: readonly string[]): Promise<void> {
  const client = new Client({ connectionString: address })
  await client.connect()
  try {
    for (const statement of statements) await client.query(statement)
  } finally {
    await client.end()
  }
}

const root = join(import.meta.dirname, '..')

/** What the environment of an installation says so that its clock is off by the milliseconds in a file of its folder. */
export const withClock = (folder: string): Record<string, string> => ({
  NODE_OPTIONS: `--import=${pathToFileURL(join(import.meta.dirname, 'shiftedClock.mjs')).href}`,
  SHIFTED_CLOCK: join(folder, 'clock'),
})

/** A built server in a process of its own, on a data folder of its own: started, stopped, killed and started again as in a plant. */
export class Installation {
  private process: ChildProcess | null = null
  base = ''
  /** What the first administrator of an empty installation has to enter. */
  code = ''
  /** Where instruments connect, where its environment asks for that. */
  instrumentPort = 0
  private port = 0

  private constructor(
    readonly folder: string,
    /** Where the plant is, when it is on a database server. */
    readonly address: string | null,
    /** kB that a file of the server may grow to; null: no limit. Only for the first start. */
    private fileLimit: number | null,
    /** What its environment says besides. */
    private readonly around: Readonly<Record<string, string>>,
    /** Whether the database goes with it. */
    private readonly isFirst = true,
  ) {}

  get pid(): number {
    return this.process?.pid ?? 0
  }

  /**
   * @param like a data folder to begin with; without it the installation is empty
   * @param around what its environment says besides, given its folder
   */
  static async start(
    like?: string,
    fileLimit: number | null = null,
    around: (folder: string) => Record<string, string> = () => ({}),
  ): Promise<Installation> {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-e2e-'))
    const installation = new Installation(folder, await freshDatabase(), fileLimit, around(folder))
    if (like !== undefined) cpSync(like, installation.folder, { recursive: true })
    if (like !== undefined && installation.address !== null) {
      const { status, output } = installation.command('move', '--to', installation.address)
      if (status !== 0) throw new Error(`The plant could not be moved to the server: ${output}`)
    }
    await installation.begin()
    return installation
  }

  /** Another server at the plant of one that is on a database server, with a folder of its own and the same key of the chain. */
  static async beside(first: Installation, around: Readonly<Record<string, string>> = {}): Promise<Installation> {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-e2e-'))
    cpSync(join(first.folder, 'chain.key'), join(folder, 'chain.key'))
    const installation = new Installation(folder, first.address, null, around, false)
    await installation.begin()
    return installation
  }

  async begin(): Promise<void> {
    const main = join(root, 'server/dist/main.js')
    const limit = this.fileLimit
    this.fileLimit = null
    // A file that may not grow: the write fails as on a full disk, and the signal that would end the process is ignored.
    const [command, args] = limit === null ? ['node', [main]] : ['bash', ['-c', `trap '' XFSZ; ulimit -S -f ${limit}; exec node "$0"`, main]]
    const child = spawn(command as string, args as string[], {
      env: { ...process.env, ...this.environment, PORT: String(this.port), NEMAWASHI_LOG: 'error', NEMAWASHI_CHECK_REPLIES: '1' },
    })
    this.process = child
    let said = ''
    this.base = await new Promise<string>((resolve, reject) => {
      const take = (chunk: Buffer) => {
        said += chunk.toString()
        const address = /ready at (http:\S+)/.exec(said)?.[1]
        this.instrumentPort = Number(/Instruments connect at \S+:(\d+)/.exec(said)?.[1] ?? 0)
        this.code = /code on the page: (\S+)/.exec(said)?.[1] ?? ''
        if (address) resolve(address)
      }
      child.stdout?.on('data', take)
      child.stderr?.on('data', take)
      child.on('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)))
    })
    this.port = Number(new URL(this.base).port)
  }

  /** SIGTERM: waits until it has gone by itself, and gives its exit code. */
  async end(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<number | null> {
    const child = this.process
    if (!child || child.exitCode !== null) return child?.exitCode ?? null
    const gone = new Promise<number | null>((resolve) => child.on('exit', resolve))
    child.kill(signal)
    return gone
  }

  async remove(): Promise<void> {
    await this.end()
    rmSync(this.folder, { recursive: true, force: true })
    if (this.address !== null && this.isFirst) await onServer(databaseServer ?? '', `DROP DATABASE ${nameOf(this.address)} WITH (FORCE)`)
  }

  private get environment() {
    return { NEMAWASHI_DATA: this.folder, NEMAWASHI_DATABASE: this.address ?? '', ...this.around }
  }

  /** The command line of the installation: verify, backup, restore. */
  command(...args: string[]): { status: number | null; output: string } {
    const { status, stdout, stderr } = spawnSync('node', [join(root, 'server/dist/cli.js'), ...args], {
      env: { ...process.env, ...this.environment, ...(args[0] === 'move' ? { NEMAWASHI_DATABASE: '' } : {}) },
      encoding: 'utf8',
    })
    return { status, output: stdout + stderr }
  }
}

const nameOf = (address: string) => new URL(address).pathname.slice(1)

/** A database of its own on the server; null where plants are kept in files. */
async function freshDatabase(): Promise<string | null> {
  if (databaseServer === null) return null
  const url = new URL(databaseServer)
  url.pathname = `/e2e_${process.pid}_${(made += 1)}_${Date.now()}`
  await onServer(databaseServer, `CREATE DATABASE ${nameOf(url.toString())}`)
  return url.toString()
}

/** A data folder with the demo plant, made once for a day and a build, and kept for their tests. */
export function demoFolder(): string {
  const build = readFileSync(join(root, '.cache/build'), 'utf8').slice(0, 12)
  const folder = join(root, '.cache', `demo-${new Date().toISOString().slice(0, 10)}-${build}`)
  if (!existsSync(join(folder, 'demo-people.json'))) {
    rmSync(folder, { recursive: true, force: true })
    const { status, stderr } = spawnSync('node', [join(root, 'server/dist/seed.js')], {
      env: { ...process.env, NEMAWASHI_DATA: folder },
      encoding: 'utf8',
    })
    if (status !== 0) throw new Error(`The demo data could not be made: ${stderr}`)
  }
  return folder
}
