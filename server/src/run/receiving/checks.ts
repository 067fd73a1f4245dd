import { isSettled } from '@nemawashi/core'
import type { OpenedCheck } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'

type Named = Pick<OpenedCheck, 'planName' | 'code' | 'state'> & { readonly lotCode?: string | null }

/** Whether it looks at a dispatch as one, and not at a lot: there are no pieces that a decision could be about. */
const isOfDispatch = ({ lotCode }: Named) => lotCode === null

/**
 * Checks that keep a dispatch from being picked, or from leaving: gates that nobody has decided on, and what was found not acceptable of the
 * dispatch as one, gate or not, unless that is only noted.
 */
export function keptBack(checks: readonly OpenedCheck[]): OpenedCheck[] {
  const hasFailed = (check: OpenedCheck) =>
    isOfDispatch(check) && check.state === 'finished' && check.verdict === 'notAcceptable' && check.onFailure === 'hold'
  return checks.filter((check) => (check.isGate && !isSettled(check.state)) || hasFailed(check))
}

/** Gates among the checks that nobody has decided on yet. */
export function openGates(checks: readonly OpenedCheck[]): OpenedCheck[] {
  return checks.filter(({ isGate, state }) => isGate && !isSettled(state))
}

const stateWords: Readonly<Record<OpenedCheck['state'], string>> = {
  toDo: 'is still to do',
  started: 'is being recorded',
  finished: 'waits for a decision',
  decided: 'is decided',
  cancelled: 'is cancelled',
}

/** A check with how far it is, in words. */
export function gateWords(check: Named): string {
  const { planName, code, state } = check
  const said =
    isOfDispatch(check) && state === 'finished' ? 'is not acceptable: record it anew once that is mended, or cancel the dispatch' : stateWords[state]
  return `${planName} (${code}) ${said}`
}

/** @throws {ServerError} `gate_closed` where a gate is not decided; `what` says what was wanted. */
export function requireGates(what: string, gates: readonly (Named & { readonly id: string })[]): void {
  const [first] = gates
  if (!first) return
  const reasons = gates.map(gateWords)
  throw new ServerError('gate_closed', `${what}: ${reasons.join('; ')}.`, { reasons, inspectionId: first.id })
}
