/** What stands around a server goes wrong: its clock, the folder that files are dropped in, the file of the chain head, whom it tells. */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, symlinkSync, truncateSync, utimesSync, writeFileSync } from 'node:fs'
import { createServer, type AddressInfo, type Socket } from 'node:net'
import { join } from 'node:path'
import { endpoints } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'
import { ApiError } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { healthOf, signedIn, type Outcome } from './faults'
import { demoFolder, Installation, withClock } from './installation'

const { people, define, run } = endpoints
const dayMs = 86_400_000

/** What holds and what does not, in the words of whoever reads the table. */
class Held {
  readonly failures: string[] = []
  count = 0
  that(isSo: boolean, otherwise: string): void {
    this.count += 1
    if (!isSo) this.failures.push(otherwise)
  }
}

/** A family under a key of its own: `stored`, or the code of the refusal. */
async function tell(client: ApiClient, code: string): Promise<string> {
  try {
    await client.call(define.families.create, { body: { code, name: code } as never }, `key of ${code}`)
    return 'stored'
  } catch (error) {
    return error instanceof ApiError ? error.reply.code : String(error)
  }
}

async function statusOf(base: string): Promise<string> {
  return ((await (await fetch(`${base}/api/v1/health`)).json()) as { status: string }).status
}

async function until(isSo: () => boolean, ms = 20_000): Promise<boolean> {
  const end = performance.now() + ms
  while (!isSo() && performance.now() < end) await new Promise((resolve) => setTimeout(resolve, 100))
  return isSo()
}

/** Everything that a folder may hold and a file of events is not, beside one that is. */
function litter(inbox: string): string[] {
  mkdirSync(inbox)
  const at = (name: string) => join(inbox, name)
  symlinkSync('/nowhere/at/all', at('lost link.json'))
  symlinkSync('/etc/passwd', at('link.json'))
  spawnSync('mkfifo', [at('pipe.csv')])
  mkdirSync(at('folder.json'))
  writeFileSync(at('large.json'), '[')
  truncateSync(at('large.json'), 600 * 1024 * 1024)
  writeFileSync(at(`${'n'.repeat(240)}.csv`), 'key\n')
  writeFileSync(at('half.json'), '[{"key": "h')
  writeFileSync(
    at('good.json'),
    JSON.stringify([{ key: 'AROUND-1', kind: 'order', body: { number: 'AROUND-1', part: 'nobody knows it', quantity: 1 } }]),
  )
  const names = readdirSync(inbox)
  // They have lain there for a while.
  for (const name of names.filter((file) => !file.includes('link'))) utimesSync(at(name), 0, 0)
  return names
}

/** The clock goes 400 days back and 16 ahead, over a new start, too; nothing is stored at an instant that nobody agreed to, and no key is forgotten. */
async function clocks(installation: Installation, clock: string, held: Held): Promise<void> {
  const set = (days: number) => writeFileSync(clock, String(days * dayMs))
  let ilse = await signedIn(installation, 'ilse')
  held.that((await tell(ilse, 'CLOCK-1')) === 'stored', 'a change is refused while all is well')
  for (const days of [-400, 16]) {
    set(days)
    // By a clock that is ahead, all sessions have ended; who comes anew is let in.
    const answer = await tell(await signedIn(installation, 'ilse'), `CLOCK${days}`)
    held.that(answer === 'clock_wrong', `a change with the clock ${days} days off is answered ${answer}`)
    held.that((await statusOf(installation.base)) === 'clockWrong', `health says nothing of a clock that is ${days} days off`)
  }
  set(0)
  held.that((await tell(await signedIn(installation, 'ilse'), 'CLOCK-2')) === 'stored', 'a clock that is right again is not believed')
  await installation.end()
  set(16)
  await installation.begin()
  ilse = await signedIn(installation, 'ilse')
  // The same request again, as by a page that waited all the time: known, and not done a second time.
  held.that((await tell(ilse, 'CLOCK-1')) === 'stored', 'a start 16 days ahead forgets what was answered')
  set(0)
  held.that((await tell(ilse, 'CLOCK-3')) === 'clock_wrong', 'a change is stored before the one before it')
  await (await signedIn(installation, 'mirela')).call(people.agreeToClock, { body: {} as never })
  held.that((await tell(await signedIn(installation, 'ilse'), 'CLOCK-3')) === 'stored', 'what an administrator agreed to is not believed')
}

/** One plant with everything around it out of order at once, from its start on. */
export async function aroundIt(): Promise<Outcome> {
  const held = new Held()
  const open = new Set<Socket>()
  // It takes what comes, and never answers.
  const deaf = createServer((socket) => void open.add(socket)).listen(0, '127.0.0.1')
  await new Promise((resolve) => deaf.once('listening', resolve))
  const installation = await Installation.start(demoFolder(), null, (folder) => {
    writeFileSync(join(folder, 'blocked'), 'a file where a folder should be')
    return {
      ...withClock(folder),
      NEMAWASHI_INBOX: join(folder, 'inbox'),
      NEMAWASHI_CHAIN_HEAD: join(folder, 'blocked', 'chain.head'),
      NEMAWASHI_WEBHOOK: `http://127.0.0.1:${(deaf.address() as AddressInfo).port}/`,
      NEMAWASHI_WEBHOOK_SECRET: 'nobody will ever look at it',
    }
  })
  const { folder } = installation
  let startMs = 0
  try {
    const mirela = await signedIn(installation, 'mirela')
    held.that((await tell(await signedIn(installation, 'ilse'), 'HEAD-1')) === 'stored', 'a change is refused because the head cannot be written')
    held.that((await statusOf(installation.base)) === 'headNotWritten', 'health says nothing of a head that cannot be written')
    rmSync(join(folder, 'blocked'))
    held.that((await tell(await signedIn(installation, 'ilse'), 'HEAD-2')) === 'stored', 'a change is refused once the head can be written')
    held.that((await statusOf(installation.base)) === 'ok', 'the head is not caught up with')

    // One browser, two people: the second one signs in over the session of the first.
    const browser = await signedIn(installation, 'ilse')
    await browser.call(people.signIn, { body: { signInName: 'dario', password } })

    await installation.end()
    rmSync(join(folder, 'inbox'), { recursive: true, force: true })
    const names = litter(join(folder, 'inbox'))
    const began = performance.now()
    await installation.begin()
    startMs = performance.now() - began
    held.that(startMs < 10_000, `a start takes ${Math.round(startMs)} ms with a receiver that does not answer`)
    const left = () => readdirSync(join(folder, 'inbox')).filter((name) => names.includes(name))
    held.that(await until(() => left().length === 0), `in the inbox still lie ${left().join(', ')}`)
    const taken = join(folder, 'inbox/taken')
    held.that(existsSync(taken) && readdirSync(taken).some((name) => name.endsWith('good.json')), 'a good file among bad ones is not taken')
    held.that(readFileSync('/etc/passwd').length > 0, 'what a link points to is gone')
    held.that((await mirela.call(run.listFeedEvents, { query: { q: 'AROUND-1' } })).total === 1, 'what was in the good file is not known')

    await clocks(installation, join(folder, 'clock'), held)
    await installation.end()
    const { status, output } = installation.command('verify')
    held.that(status === 0, output)
  } finally {
    await installation.remove()
    for (const socket of open) socket.destroy()
    deaf.close()
  }
  return { name: 'all around it out of order', figures: { held: held.count, startMs: Math.round(startMs) }, failures: held.failures }
}

/** The dearest things that anybody may ask for, one by one and then all at once: how long somebody waits who asks for next to nothing. */
export async function longestStall(rounds: number): Promise<Outcome> {
  const installation = await Installation.start(demoFolder())
  const failures: string[] = []
  const longestMs = { alone: 0, together: 0 }
  let asked = 0
  try {
    const { cookies } = await signedIn(installation, 'mirela')
    const dear = ['audit.pdf', 'audit.csv', 'audit-verification', 'library/export?format=xlsx', 'plan-exchange/export?format=xlsx', 'inspections.csv']
    const ask = async (what: string) => {
      const response = await fetch(`${installation.base}/api/v1/${what}`, { headers: { cookie: cookies } })
      await response.arrayBuffer()
      asked += 1
      // Too much at a time may be refused, with a word.
      if (response.status >= 400 && response.status !== 429 && response.status !== 503) failures.push(`${what} answers ${response.status}`)
    }
    const meanwhile = async (how: keyof typeof longestMs, asking: () => Promise<unknown>) => {
      const known = { isDone: false }
      const probing = (async () => {
        while (!known.isDone) {
          const before = performance.now()
          await healthOf(installation.base)
          longestMs[how] = Math.max(longestMs[how], performance.now() - before)
        }
      })()
      await asking()
      known.isDone = true
      await probing
    }
    for (let round = 0; round < rounds; round++) {
      for (const what of dear) await meanwhile('alone', () => ask(what))
      await meanwhile('together', () => Promise.all(dear.map(ask)))
    }
    for (const [how, ms] of Object.entries(longestMs))
      if (ms > 1000) failures.push(`somebody else waited for ${Math.round(ms)} ms while they were asked ${how}`)
  } finally {
    await installation.remove()
  }
  return {
    name: 'asked for what is dear',
    figures: { asked, longestAloneMs: Math.round(longestMs.alone), longestTogetherMs: Math.round(longestMs.together) },
    failures,
  }
}
