import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')

/** A built server in a process of its own, on a data folder of its own: started, stopped, killed and started again as in a plant. */
export class Installation {
  private process: ChildProcess | null = null
  base = ''
  /** What the first administrator of an empty installation has to enter. */
  code = ''
  private port = 0

  private constructor(
    readonly folder: string,
    /** kB that a file of the server may grow to; null: no limit. Only for the first start. */
    private fileLimit: number | null,
  ) {}

  get pid(): number {
    return this.process?.pid ?? 0
  }

  /** @param like a data folder to begin with; without it the installation is empty */
  static async start(like?: string, fileLimit: number | null = null): Promise<Installation> {
    const installation = new Installation(mkdtempSync(join(tmpdir(), 'nemawashi-e2e-')), fileLimit)
    if (like !== undefined) cpSync(like, installation.folder, { recursive: true })
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
      env: { ...process.env, NEMAWASHI_DATA: this.folder, PORT: String(this.port), NEMAWASHI_LOG: 'error', NEMAWASHI_CHECK_REPLIES: '1' },
    })
    this.process = child
    let said = ''
    this.base = await new Promise<string>((resolve, reject) => {
      const take = (chunk: Buffer) => {
        said += chunk.toString()
        const address = /ready at (http:\S+)/.exec(said)?.[1]
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
  }

  /** The command line of the installation: verify, backup, restore. */
  command(...args: string[]): { status: number | null; output: string } {
    const { status, stdout, stderr } = spawnSync('node', [join(root, 'server/dist/cli.js'), ...args], {
      env: { ...process.env, NEMAWASHI_DATA: this.folder },
      encoding: 'utf8',
    })
    return { status, output: stdout + stderr }
  }
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
