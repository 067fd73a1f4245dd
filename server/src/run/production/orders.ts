import { isPaused } from '@nemawashi/core'
import type { NextStep, ProductionOrder } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { namedBalances } from '../../stock/ledger/repository'
import { openGates } from '../receiving/checks'
import { checksOn, componentsOf, orderHead, stepsOf } from './repository'
import { onLine } from '../../opening/onLine'
import { serialsAt } from './stepSerials'
import { reportsOfOrder } from './stepReportRepository'

type Known = Omit<ProductionOrder, 'next'>
/** What comes next, before it is known which serial numbers it means. */
type Next = Omit<NextStep, 'serials'>

/**
 * What comes next on an order, and which gates stand before it. The machine side shows it, and every act is refused by it.
 * A gate of a step that runs blocks its reports and its confirmation; one of a step that is confirmed blocks the next start, and the finish.
 */
export function nextStep({ state, quantity, steps, balances }: Known): Next | null {
  if (state === 'planned') return { act: 'release', stepId: null, quantity, gates: [] }
  if (state !== 'released') return null
  const free = onLine(balances).reduce((sum, balance) => sum + balance.quantity, 0)
  const current = steps.find((step) => step.state !== 'confirmed')
  const shown = (checks: Parameters<typeof openGates>[0]) =>
    openGates(checks).map(({ id, code, planName, state: at }) => ({ id, code, planName, state: at }))
  const before = steps.filter((step) => step.state === 'confirmed').flatMap(({ checks }) => checks)
  if (!current) return { act: 'finish', stepId: null, quantity: free, gates: shown(before) }
  const { good, scrapped, setAside } = current
  // Good pieces of a later step stay on the line; what it lost has left it.
  const here = current.position === 1 ? quantity - good - scrapped - setAside : Math.max(0, free - good)
  // Nothing is left at work, and nothing waits there for a decision: the steps that are left have nothing to do.
  const isEmpty = current.position > 1 && current.state === 'waiting' && here === 0
  if (isEmpty && !balances.some(({ standing, placePurpose }) => standing === 'onHold' && placePurpose === 'production'))
    return { act: 'finish', stepId: null, quantity: 0, gates: shown(before) }
  if (current.state === 'waiting') return { act: 'start', stepId: current.id, quantity: here, gates: shown(before) }
  return { act: 'confirm', stepId: current.id, quantity: here, gates: shown(current.checks) }
}

export async function loadOrder(reader: Reader, id: string): Promise<ProductionOrder> {
  const head = await orderHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no production order with the id ${id}.`)
  const rows = await stepsOf(reader, id)
  const reports = await reportsOfOrder(reader, id)
  const occasions = [...rows.flatMap(({ startId, endId }) => [startId, endId]), ...reports.map((report) => report.id)]
  const checks = await checksOn(
    reader,
    occasions.filter((occasion) => occasion !== null),
  )
  const steps = rows.map(({ startId, endId, ...step }) => {
    const own = reports.filter(({ stepId }) => stepId === step.id).map(({ stepId: _, ...report }) => report)
    const eventIds = [startId ?? '', ...own.map((report) => report.id), endId ?? '']
    return { ...step, reports: own, isPaused: isPaused(own), checks: eventIds.flatMap((occasion) => checks.get(occasion) ?? []) }
  })
  const known: Known = {
    ...head,
    steps,
    balances: head.lotId === null ? [] : await namedBalances(reader, head.lotId),
    components: head.lotId === null ? [] : await componentsOf(reader, head.lotId),
  }
  const next = nextStep(known)
  if (next === null) return { ...known, next }
  const isFirst = steps.find((step) => step.state !== 'confirmed')?.position === 1
  const serials = head.lotId === null ? [] : await serialsAt(reader, head.lotId, isFirst)
  return { ...known, next: { ...next, serials: serials.map(({ serial }) => serial) } }
}
