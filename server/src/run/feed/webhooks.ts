import { createHmac } from 'node:crypto'
import { quantityByStanding, standings, quantityValue } from '@nemawashi/core'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import type { Job } from '../../kernel/area'
import type { DomainEvents } from '../../kernel/work/domainEvents'
import type { Config } from '../../kernel/base/config'
import type { UnitOfWork, Work } from '../../kernel/work/unitOfWork'
import { loadBalances, unitOfLot } from '../../stock/ledger/repository'
import { loadDelivery } from '../receiving/deliveries'
import { NoticeEntity, type NoticeRow } from './entities'
import { dueNotices } from './repository'
import { lotRows } from '../../stock/ledger/rows'
import { deliveryRows } from '../receiving/rows'

declare module '../../kernel/work/domainEvents' {
  interface DomainEventFacts {
    /** A delivery was entered. */
    delivered: { readonly deliveryId: string }
    /** What becomes of pieces of a lot was decided. */
    lotDecided: { readonly lotId: string }
  }
}

/** What is not delivered is tried again after a minute, then after twice as long each time, at most every hour; it is never given up. */
const firstWaitMs = 60_000
const longestWaitMs = 3_600_000
const answerWithinMs = 5_000
const maxAtOnce = 20
/** So long a notice is one server's that has taken it up; if that server ends meanwhile, another one goes on with it. */
const takenForMs = 60_000

async function note(work: Work, kind: NoticeRow['kind'], about: string, body: Record<string, unknown>): Promise<void> {
  const row: NoticeRow = { id: work.newId(), kind, about, body, at: work.now, tries: 0, nextAt: work.now, deliveredAt: null, lastAnswer: '' }
  await work.manager.insert(NoticeEntity, row as QueryDeepPartialEntity<NoticeRow>)
}

/** Where everything that a delivery asked for is decided, its invoice may be paid for what was released. */
async function noteInvoice(work: Work, deliveryId: string): Promise<void> {
  if (!(await deliveryRows.find(work.manager, { id: deliveryId }))) return
  const { code, supplierId, orderNumber, isFree, lots } = await loadDelivery(work.manager, deliveryId)
  if (!isFree) return
  const facts = lots.map(({ code: lot, supplierLot, quantity, unit, balances }) => ({
    lot,
    supplierLot,
    quantity: quantityValue(quantity, unit),
    released: quantityValue(quantityByStanding(balances).released, unit),
  }))
  await note(work, 'invoiceReleased', code, { delivery: code, supplierId, orderNumber, lots: facts })
}

async function noteStanding(work: Work, lotId: string): Promise<void> {
  const lot = await lotRows.load(work.manager, lotId)
  const unit = await unitOfLot(work.manager, lotId)
  const sums = quantityByStanding(await loadBalances(work.manager, lotId))
  const quantities = Object.fromEntries(
    standings.filter((standing) => sums[standing] > 0).map((standing) => [standing, quantityValue(sums[standing], unit)]),
  )
  await note(work, 'standing', lot.code, { lot: lot.code, supplierLot: lot.supplierLot, standings: quantities })
  await noteInvoice(work, lot.originId)
}

/** Notes what the other system is to be told; nothing where there is none. */
export function subscribeWebhooks(events: DomainEvents, { webhook }: Pick<Config, 'webhook'>): void {
  if (webhook === null) return
  events.on('delivered', (work, { deliveryId }) => noteInvoice(work, deliveryId))
  events.on('lotDecided', (work, { lotId }) => noteStanding(work, lotId))
}

/** The signature that the other side can check: it was said by this plant, and as it was said. */
export function signatureOf(secret: string, text: string): string {
  return `sha256=${createHmac('sha256', secret).update(text).digest('hex')}`
}

/** What the other side says: its status, or that there was no answer. */
async function tell(
  { url, secret }: { url: string; secret: string },
  { id, kind, at, about, body }: NoticeRow,
): Promise<{ isKnown: boolean; answer: string }> {
  const text = JSON.stringify({ id, kind, at, about, body })
  const headers = { 'Content-Type': 'application/json', 'X-Signature': signatureOf(secret, text) }
  try {
    const { ok, status } = await fetch(url, { method: 'POST', headers, body: text, signal: AbortSignal.timeout(answerWithinMs), redirect: 'error' })
    return { isKnown: ok, answer: String(status) }
  } catch (error) {
    return { isKnown: false, answer: error instanceof Error && error.name === 'TimeoutError' ? 'no answer in time' : 'not reached' }
  }
}

export function waitMs(tries: number): number {
  return Math.min(longestWaitMs, firstWaitMs * 2 ** Math.max(0, tries - 1))
}

/** Takes a notice up, so that no other server of the plant tells it meanwhile; null where one has. */
function takeUp(work: UnitOfWork, id: string, now: Date): Promise<NoticeRow | null> {
  return work.run({ personId: null, key: null, content: '' }, async ({ manager, audit, nothingChanged }) => {
    const notice = await manager.findOneBy(NoticeEntity, { id })
    if (notice === null || notice.nextAt === null || notice.nextAt > now.toISOString()) {
      nothingChanged()
      return null
    }
    const tries = notice.tries + 1
    await manager.update(NoticeEntity, { id }, { tries, nextAt: new Date(now.getTime() + takenForMs).toISOString() })
    audit({ action: 'taken up', subject: 'notice', subjectId: id, after: { tries } })
    return { ...notice, tries }
  })
}

/** Tells the other system what it does not know yet, oldest first. One round at a time, and each notice by one server of the plant. */
export function sendingWebhooks(): Job {
  let isTelling = false
  return {
    words: 'telling the other system',
    everyMs: 2_000,
    async run(work, now, { config, database }) {
      if (config.webhook === null || isTelling) return
      isTelling = true
      try {
        const due = await dueNotices(database.reader, now.toISOString(), maxAtOnce)
        for (const id of due) {
          const notice = await takeUp(work, id, now)
          if (notice === null) continue
          const { isKnown, answer } = await tell(config.webhook, notice)
          await work.run({ personId: null, key: null, content: '' }, async ({ manager, audit }) => {
            const { tries } = notice
            const next = isKnown ? null : new Date(now.getTime() + waitMs(tries)).toISOString()
            await manager.update(NoticeEntity, { id }, { lastAnswer: answer, nextAt: next, deliveredAt: isKnown ? now.toISOString() : null })
            audit({ action: isKnown ? 'told' : 'not told', subject: 'notice', subjectId: id, after: { answer, tries } })
          })
          // Who did not answer now does not answer the next one either.
          if (!isKnown) break
        }
      } finally {
        isTelling = false
      }
    },
  }
}
