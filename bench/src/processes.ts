import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '../..')

const running = new Set<ChildProcess>()

/** Ends whatever a bench that broke off has left. */
export function endAll(): void {
  for (const child of running) child.kill('SIGKILL')
}

/** Asks a process to end, and waits until it has. */
export async function stopped(child: ChildProcess): Promise<void> {
  child.removeAllListeners('exit')
  const ended = new Promise((resolve) => child.on('exit', resolve))
  child.kill('SIGTERM')
  await ended
  running.delete(child)
}

/** Starts a server process and waits for its address. */
export function startProcess(
  command: string,
  args: string[],
  environment: Record<string, string>,
): Promise<{ base: string; code: string; child: ChildProcess; output: () => string }> {
  const child = spawn(command, args, { cwd: root, env: { ...process.env, ...environment } })
  running.add(child)
  let said = ''
  return new Promise((resolve, reject) => {
    const take = (chunk: Buffer) => {
      said += chunk.toString()
      const base = /ready at (http:\S+)/.exec(said)?.[1]
      const code = /code on the page: (\S+)/.exec(said)?.[1] ?? ''
      if (base) resolve({ base, code, child, output: () => said })
    }
    child.stdout?.on('data', take)
    child.stderr?.on('data', take)
    child.on('exit', (code) => reject(new Error(`${command} ended with ${code}: ${said}`)))
  })
}

export function startServer(folder: string) {
  return startProcess('node', ['server/dist/main.js'], { NEMAWASHI_DATA: folder, PORT: '0', NEMAWASHI_LOG: 'error' })
}
