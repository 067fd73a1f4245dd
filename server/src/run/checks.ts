import { isSettled } from '@nemawashi/core'
import type { OpenedCheck } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'

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
export function gateWords({ planName, code, state }: Pick<OpenedCheck, 'planName' | 'code' | 'state'>): string {
  return `${planName} (${code}) ${stateWords[state]}`
}

/** @throws {ServerError} `gate_closed` where a gate is not decided; `what` says what was wanted. */
export function requireGates(what: string, gates: readonly Pick<OpenedCheck, 'id' | 'planName' | 'code' | 'state'>[]): void {
  const [first] = gates
  if (!first) return
  const reasons = gates.map(gateWords)
  throw new ServerError('gate_closed', `${what}: ${reasons.join('; ')}.`, { reasons, inspectionId: first.id })
}
