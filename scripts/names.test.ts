import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')

/** Names that a stranger had to guess, and what says it. What is not renamed yet is not on the list. */
const said: Readonly<Record<string, string>> = {
  Happenings: 'DomainEvents',
  Happened: 'DomainEventFacts',
  hears: 'subscribe',
  House: 'App',
  startHouse: 'startApp',
  Finds: 'SearchProvider',
  onceIn: 'memoizeInWork',
  putTogether: 'insertBatch',
  wayIn: 'loadReceivingRoute',
  whereTo: 'findPutAwayDestination',
  considerAt: 'evaluateControlPoints',
  noteConsidered: 'recordFrequencyDecisions',
  isAtItsEnd: 'isFinal',
  requireLife: 'assertTransition',
  turnAway: 'refuseDelivery',
  giveUp: 'abort',
  NowherePage: 'NotFoundPage',
  askOnce: 'mergeDuplicateLines',
  withoutEffect: 'inapplicableFields',
  saidInVain: 'findInapplicable',
  unsaid: 'defaults',
  givesWayTo: 'supersededBy',
  misses: 'mismatches',
  passedBy: 'skippedByRule',
  seeTold: 'markNotificationRead',
  ToldEntity: 'NotificationEntity',
  callOff: 'cancel',
  foreseen: 'expected',
  plainly: 'askPrepared',
}
/** A variable or parameter that is called `of` says nothing of what it is. */
const namedOf = /(?:\b(?:const|let)\s+|\()of\s*(?=[=:,)])/
const asName = new RegExp(`(?<![\\w'"\`-])(${Object.keys(said).join('|')})(?![\\w'"\`-])`, 'g')

/** Code without comments, texts and templates' words: what is left are names. */
function codeOf(file: string): string {
  const text = readFileSync(join(root, file), 'utf8')
  const code = file.endsWith('.vue') ? (/<script[^>]*>([^]*?)<\/script>/.exec(text)?.[1] ?? '') : text
  return code.replaceAll(/\/\*[^]*?\*\/|\/\/.*|'(?:[^'\\\n]|\\.)*'|"(?:[^"\\\n]|\\.)*"/g, '')
}

it('a thing has the name that somebody would search for', () => {
  const files = execFileSync('git', ['ls-files', '*.ts', '*.vue'], { cwd: root, encoding: 'utf8' }).split('\n').filter(Boolean)
  const written = files.filter((file) => !file.startsWith('server/src/app/migrations/') && !file.endsWith('/names.test.ts'))
  const found = written.flatMap((file) => [
    ...new Set([...codeOf(file).matchAll(asName)].map(([name]) => `${file}: ${name}, say ${said[name] ?? ''}`)),
  ])
  expect(found).toEqual([])
  expect(written.filter((file) => namedOf.test(codeOf(file)))).toEqual([])
})
