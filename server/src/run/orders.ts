import type { NextStep, ProductionOrder } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { namedBalances } from '../stock/repository'
import { openGates } from './checks'
import { checksOn, componentsOf, orderHead, stepsOf } from './orderRepository'

type Known = Omit<ProductionOrder, 'next'>

/**
 * What comes next on an order, and which gates stand before it. The machine side shows it, and every act is refused by it.
 * A gate of a step's start blocks its confirmation; one of its end blocks the next start, and the finish.
 */
export function nextStep({ state, quantity, steps, balances }: Known): NextStep | null {
  if (state === 'planned') return { act: 'release', stepId: null, quantity, gates: [] }
  if (state !== 'released') return null
  const free = balances.filter(({ standing }) => standing === 'released').reduce((sum, balance) => sum + balance.quantity, 0)
  const current = steps.find((step) => step.state !== 'confirmed')
  const shown = (checks: Parameters<typeof openGates>[0]) =>
    openGates(checks).map(({ id, code, planName, state: at }) => ({ id, code, planName, state: at }))
  const before = steps.filter((step) => step.state === 'confirmed').flatMap(({ checks }) => checks)
  if (!current) return { act: 'finish', stepId: null, quantity: free, gates: shown(before) }
  const here = current.position === 1 ? quantity : free
  if (current.state === 'waiting') return { act: 'start', stepId: current.id, quantity: here, gates: shown(before) }
  return { act: 'confirm', stepId: current.id, quantity: here, gates: shown(current.checks) }
}

export async function loadOrder(reader: Reader, id: string): Promise<ProductionOrder> {
  const head = await orderHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no production order with the id ${id}.`)
  const rows = await stepsOf(reader, id)
  const checks = await checksOn(
    reader,
    rows.flatMap(({ startId, endId }) => [startId, endId].filter((occasion) => occasion !== null)),
  )
  const steps = rows.map(({ startId, endId, ...step }) => ({
    ...step,
    checks: [...(checks.get(startId ?? '') ?? []), ...(checks.get(endId ?? '') ?? [])],
  }))
  const known: Known = {
    ...head,
    steps,
    balances: head.lotId === null ? [] : await namedBalances(reader, head.lotId),
    components: head.lotId === null ? [] : await componentsOf(reader, head.lotId),
  }
  return { ...known, next: nextStep(known) }
}
