import { beforeReceipt, causesOfHolds, correctionsOn, inspectionsOnLot, lotHead, namedMovements, papersOn } from './repository'
import { loadMovements, namedBalances, unitKindsOf } from '../../stock/ledger/repository'
import {
  dispositionWords,
  movementWords,
  quantityByStanding,
  describeCorrection,
  describeOrigin,
  quantityText,
  quantityWords,
  describeDue,
  describeFinding,
  lateWords,
  sealWords,
  standings,
  standingWords,
  type MovementKind,
  type UnitKind,
} from '@nemawashi/core'
import { minutesLateOf, paperWords, upperFirst, type Decision, type Finding, type LotEvent, type Passport } from '@nemawashi/contract'
import { loadDecisions } from '../../stock/ledger/decisionRepository'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { skippedByRuleOn } from '../../opening/repository'
import { standingsGiven } from '../../stock/ledger/finerRepository'
import { linesAsked } from '../../inspections/inspections'
import type { MovementRow } from '../../stock/ledger/entities'
import { balancesAt } from '../../stock/ledger/ledger'

type Draft = Omit<LotEvent, 'standingsAfter'>

function event(draft: Pick<Draft, 'at' | 'kind' | 'title' | 'detail'> & Partial<Draft>): Draft {
  return { byName: null, verdict: null, inspectionId: null, documentId: null, seal: null, ...draft }
}

async function inspectionEvents(reader: Reader, lotId: string): Promise<Draft[]> {
  const heads = await inspectionsOnLot(reader, lotId)
  const events: Draft[] = []
  const lines = await linesAsked(
    reader,
    heads.map(({ id }) => id),
  )
  for (const head of heads) {
    const subject = { inspectionId: head.id }
    const looked = head.unitLabel === null ? head.planName : `${head.planName}, ${head.unitLabel}`
    const samples = (lines.get(head.id) ?? []).map(({ name, reasoning }) => `${name}: ${reasoning}`).join(' · ')
    const byHand = head.openReason === null ? '' : ' by hand'
    const why = head.openReason === null ? [] : [head.openReason]
    events.push(
      event({
        ...subject,
        at: head.openedAt,
        kind: 'inspectionOpened',
        title: `${head.code} opened${byHand}: ${looked}`,
        detail: [...why, samples].join(' · '),
        byName: head.openedByName,
      }),
    )
    if (head.startedAt !== null)
      events.push(
        event({
          ...subject,
          at: head.startedAt,
          kind: 'inspectionStarted',
          title: `${head.code}: first reading`,
          detail: '',
          byName: head.startedByName,
        }),
      )
    if (head.finishedAt !== null && head.finding !== null) {
      events.push(
        event({
          ...subject,
          at: head.finishedAt,
          kind: 'inspectionFinished',
          title: `Inspected: ${looked}`,
          detail: [describeFinding(JSON.parse(head.finding) as Finding), lateWords(minutesLateOf(head))].filter(Boolean).join(' · '),
          byName: head.finishedByName,
          verdict: head.verdict,
        }),
      )
    }
    if (head.cancelledAt !== null)
      events.push(
        event({
          ...subject,
          at: head.cancelledAt,
          kind: 'cancelled',
          title: `${head.code} cancelled: ${looked}`,
          detail: head.cancelReason ?? '',
          byName: head.cancelledByName,
        }),
      )
  }
  return events
}

function decisionEvent({ rows, initials, meaning, signedAt, signedByName, inspectionId, followsId }: Decision, unit: string): Draft {
  const words = rows.map(
    (row) =>
      `${dispositionWords[row.disposition]} ${quantityText(row.quantity, unit)}${row.standing === null ? '' : ` that were ${standingWords[row.standing]} in ${row.placeName}`}${row.containerLabel ? ` (${row.containerLabel})` : ''}${row.reason ? `: ${row.reason}` : ''}`,
  )
  return event({
    inspectionId,
    at: signedAt,
    kind: followsId === null ? 'decided' : 'decidedAgain',
    title: `${followsId === null ? 'Decided' : 'Decided anew'}: ${sealWords[meaning]}`,
    detail: words.join(' · ') || 'nothing was held',
    byName: signedByName,
    seal: { initials, meaning, signedAt },
  })
}

/** A finer standing that was given, and that it ended. */
function finerEvents({
  name,
  containerLabel,
  reason,
  at,
  byName,
  endedAt,
  endedByName,
}: Awaited<ReturnType<typeof standingsGiven>>[number]): Draft[] {
  const ofContainer = containerLabel === null ? '' : ` (${containerLabel})`
  const given = event({ at, kind: 'finerStanding', title: `Restricted: ${name}${ofContainer}`, detail: reason, byName })
  if (endedAt === null) return [given]
  return [given, event({ at: endedAt, kind: 'finerStanding', title: `Restriction ended: ${name}${ofContainer}`, detail: '', byName: endedByName })]
}

type Names = ReadonlyMap<number, { byName: string }>
type Causes = ReadonlyMap<string, { causeId: string; causeCode: string }>

/** Movements of a kind that belong to a hold, hold by hold: the first of them, what holds or held, and how many pieces together. */
function byHold(movements: readonly MovementRow[], causeOf: Causes, isOfKind: (movement: MovementRow) => boolean) {
  const holds = new Map<string, MovementRow[]>()
  for (const movement of movements)
    if (movement.holdId !== null && isOfKind(movement)) holds.set(movement.holdId, [...(holds.get(movement.holdId) ?? []), movement])
  return [...holds].map(([holdId, hold]) => {
    const quantity = hold.reduce((sum, movement) => sum + movement.quantity, 0)
    return { first: hold[0] as MovementRow, cause: causeOf.get(holdId), quantity }
  })
}

/** Pieces that a finding let go without a decision, in one line a hold. */
function freedEvents(movements: readonly MovementRow[], names: Names, causeOf: Causes, unit: string): Draft[] {
  return byHold(movements, causeOf, ({ kind }) => kind === 'release' || kind === 'concession').map(({ first, cause, quantity }) =>
    event({
      at: first.at,
      kind: 'freed',
      title: `Free, ${quantityText(quantity, unit)}`,
      detail: `with the finding of ${cause?.causeCode ?? 'an inspection'}, as its control point says: nobody had to decide`,
      byName: names.get(first.seq ?? 0)?.byName ?? null,
      inspectionId: cause?.causeId ?? null,
    }),
  )
}

/** Pieces that an inspection took back when it opened or failed, in one line a hold. */
function heldEvents(movements: readonly MovementRow[], names: Names, causeOf: Causes, unit: string): Draft[] {
  return byHold(movements, causeOf, ({ kind }) => kind === 'held').map(({ first, cause, quantity }) => {
    return event({
      at: first.at,
      kind: 'held',
      title: `Held, ${quantityText(quantity, unit)}`,
      detail: `for ${cause?.causeCode ?? 'an inspection'}: what was free until then waits for a decision`,
      byName: names.get(first.seq ?? 0)?.byName ?? null,
      inspectionId: cause?.causeId ?? null,
    })
  })
}

/** Everything that ever happened to a lot, oldest first, with where its quantity stood after each happening. */
export async function loadPassport(reader: Reader, lotId: string): Promise<Passport> {
  const lot = await lotHead(reader, lotId)
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`)
  const movements = await loadMovements(reader, lotId)
  const named = await namedMovements(reader, lotId)
  const nameOf = new Map(named.map((row) => [row.seq, row]))
  const { receivedByName, ...head } = lot
  const holds = await causesOfHolds(reader, lotId)
  const causeOf = new Map(holds.map(({ id, ...cause }) => [id, cause]))
  const units = await unitKindsOf(reader, lotId)
  const unitWords = (kind: UnitKind, one: string) => {
    const count = units.filter((unit) => unit.kind === kind).length
    return count === 0 ? '' : ` · ${count} ${one}${count === 1 ? '' : 's'}`
  }
  const drafts: Draft[] = [
    event({
      at: lot.receivedAt,
      kind: 'received',
      title: `${lot.originKind === 'delivery' ? 'Received' : 'Lot opened for an order'}, ${quantityWords(lot.quantity, lot.unit)}`,
      detail: `${describeOrigin(lot)}${unitWords('container', 'container')}${unitWords('serial', 'serial number')}${lot.originKind === 'delivery' ? ` · ${nameOf.get(movements[0]?.seq ?? 0)?.toName ?? ''}` : ''}`,
      byName: receivedByName,
    }),
    ...(await beforeReceipt(reader, lotId)).map(({ kind, at, byName, orderNumber }) =>
      event({
        at,
        kind: 'announced',
        title: kind === 'deliveryAnnounced' ? 'Announced' : 'Registered at the dock',
        detail: `order ${orderNumber}`,
        byName,
      }),
    ),
    ...(await papersOn(reader, lotId)).map(({ kind, name, at, byName, documentId }) =>
      event({ at, kind: 'paper', title: upperFirst(paperWords[kind]), detail: name, byName, documentId }),
    ),
    ...(await skippedByRuleOn(reader, [lotId])).map(({ planName, at, due }) =>
      event({ at, kind: 'skippedByRule', title: `Not looked at: ${planName}`, detail: describeDue(due) }),
    ),
    ...(await standingsGiven(reader, lotId)).flatMap(finerEvents),
    ...(await correctionsOn(reader, lotId)).map(({ field, before, after, reason, at, byName }) =>
      event({ at, kind: 'corrected', title: `Corrected: ${describeCorrection({ field, before, after }, lot.unit)}`, detail: reason, byName }),
    ),
    ...(await inspectionEvents(reader, lotId)),
    ...(await loadDecisions(reader, lotId)).map((decision) => decisionEvent(decision, lot.unit)),
    ...heldEvents(movements, nameOf, causeOf, lot.unit),
    ...freedEvents(movements, nameOf, causeOf, lot.unit),
    ...movements.flatMap((movement) => (isOnTheWay(movement.kind) ? [wayEvent(movement, nameOf.get(movement.seq ?? 0), lot.unit)] : [])),
  ]
  const order = drafts.map((draft, index) => ({ draft, index })).sort((a, b) => a.draft.at.localeCompare(b.draft.at) || a.index - b.index)
  return {
    lot: head,
    balances: await namedBalances(reader, lotId),
    underConcession: concededIn(movements),
    events: order.map(({ draft }) => ({ ...draft, standingsAfter: standingsAt(movements, draft.at) })),
    movements: movements.map((movement) => {
      const names = nameOf.get(movement.seq ?? 0)
      return {
        at: movement.at,
        quantity: movement.quantity,
        containerLabel: names?.containerLabel ?? null,
        from: movement.fromStanding === null ? null : `${names?.fromName}, ${standingWords[movement.fromStanding]}`,
        to: `${names?.toName}, ${standingWords[movement.toStanding]}`,
        kind: movement.kind,
        byName: names?.byName ?? '',
      }
    }),
  }
}

/** What happens to pieces on their way, without a decision. */
const onTheWay = ['putAway', 'transferred', 'made', 'scrappedAtStep', 'setAsideAtStep', 'issued', 'picked', 'shipped', 'cameBack'] as const
const isOnTheWay = (kind: MovementKind) => (onTheWay as readonly MovementKind[]).includes(kind)

function wayEvent(movement: MovementRow, names: { toName: string; byName: string; containerLabel: string | null } | undefined, unit: string): Draft {
  const ofContainer = names?.containerLabel ? ` of ${names.containerLabel}` : ''
  return event({
    at: movement.at,
    kind: 'moved',
    title: `${upperFirst(movementWords[movement.kind])}, ${quantityText(movement.quantity, unit)}${ofContainer}`,
    detail: `to ${names?.toName}`,
    byName: names?.byName ?? null,
  })
}

/** Pieces that were freed under a concession and are free, or gone to where free pieces go. */
function concededIn(movements: readonly MovementRow[]): number {
  const sums = quantityByStanding(balancesAt(movements, '9'))
  const conceded = movements.filter(({ kind }) => kind === 'concession').reduce((sum, { quantity }) => sum + quantity, 0)
  return Math.min(conceded, sums.released + sums.used + sums.shipped)
}

function standingsAt(movements: readonly MovementRow[], at: string): LotEvent['standingsAfter'] {
  const sums = quantityByStanding(balancesAt(movements, at))
  return Object.fromEntries(standings.filter((standing) => sums[standing] > 0).map((standing) => [standing, sums[standing]]))
}
