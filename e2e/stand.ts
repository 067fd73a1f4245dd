import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { afterAll, beforeAll } from 'vitest'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'

const { contain, define, people, record } = endpoints

/** Reaches something by key and presses it. */
export const press = async (hand: Hand, selector: string): Promise<void> => {
  await hand.reach(selector)
  await hand.press('Enter')
}
/** The number of the first inspection that a text names. */
export const codeIn = (text: string): string => /I-\d{6}/.exec(text)?.[0] ?? ''

/** The demo's plant for one file of tests: started before them, gone after them, with people who sit at it or ask it by themselves. */
export function standing() {
  let installation: Installation
  let chromium: Awaited<ReturnType<typeof launch>>
  const clients = new Map<string, ApiClient>()
  beforeAll(async () => {
    installation = await Installation.start(demoFolder())
    chromium = await launch()
  })
  afterAll(async () => {
    await chromium.close()
    await installation.remove()
  })

  async function api(signInName: string): Promise<ApiClient> {
    const client = clients.get(signInName) ?? new ApiClient(installation.base)
    if (!clients.has(signInName)) await client.call(people.signIn, { body: { signInName, password } })
    clients.set(signInName, client)
    return client
  }
  async function sit(signInName: string): Promise<Hand> {
    const hand = await Hand.at(chromium.browser, installation.base)
    await hand.signIn(signInName, password)
    return hand
  }
  async function partId(code: string): Promise<string> {
    return (await (await api('ilse')).call(define.parts.list, { query: { q: code } })).rows[0]?.id ?? ''
  }
  /** Answers what a check asks for and lets go what it holds, lot by lot: the bench and the decision have tests of their own. */
  async function settle(code: string): Promise<void> {
    const inspector = await api('rosa')
    const manager = await api('anja')
    const [row] = (await inspector.call(record.listInspections, { query: { q: code } })).rows
    const params = { id: row?.id ?? '' }
    const { lines } = await inspector.call(record.getInspection, { params })
    const readings = lines.flatMap((line) =>
      Array.from({ length: line.sampleSize }, (_, i) => ({
        id: crypto.randomUUID(),
        lineId: line.id,
        piece: i + 1,
        value: line.kind === 'measured' ? (line.nominal ?? line.lower) : line.kind === 'judged' ? 'O' : '0',
        typedAt: new Date().toISOString(),
        isConfirmedOutside: false,
        corrects: null,
      })),
    )
    const { version } = await inspector.call(record.recordReadings, { params, body: { readings } })
    const { lotId, toDecide, finding } = await inspector.call(record.finishInspection, { params, body: { version } })
    for (const of of lotId === null ? toDecide.map(({ id }) => id) : [lotId]) {
      const finished = await manager.call(record.getInspection, { params, query: { lotId: of } })
      const disposition = finding.verdict === 'acceptable' ? ('release' as const) : ('concession' as const)
      const rows = finished.balances
        .filter(({ standing: where }) => where === 'onHold')
        .map(({ containerId, quantity }) => ({ containerId, quantity, disposition, reason: 'looked at, good' }))
      await manager.call(contain.decide, { params, body: { version: finished.version, password, lotId: of, rows } })
    }
  }
  return { api, sit, settle, partId, plant: () => installation, chromium: () => chromium }
}
