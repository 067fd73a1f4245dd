import { isBeforeReceipt, isSettled } from '@nemawashi/core'
import type { Inspection } from '@nemawashi/contract'

type Look = Pick<Inspection, 'state' | 'isGate' | 'onFailure' | 'originKind'> & { readonly finding: Pick<Inspection['finding'], 'verdict'> }

/**
 * What hangs on the look at a load, in words: the put-away of its lots where they are here, its receipt before that, or the dispatch that it
 * is. Null where it hangs on it as on any other inspection.
 */
export function loadHolds({ state, isGate, onFailure, originKind, finding }: Look): string | null {
  const isHolding = isGate || onFailure === 'hold'
  const hasFailed = state === 'finished' && isHolding && finding.verdict === 'notAcceptable'
  const isFailedOnly = isHolding ? '' : 'A failure is only noted.'
  if (originKind === 'dispatch') {
    if (hasFailed) return 'It keeps the dispatch back: reopen it once that is mended, or cancel the dispatch.'
    if (state === 'finished' || isSettled(state)) return ''
    return `${isGate ? 'Gate: the dispatch waits until this is acceptable. ' : ''}${isFailedOnly || 'If it is not acceptable, it keeps the dispatch back.'}`
  }
  if (!isBeforeReceipt(originKind)) return isSettled(state) ? '' : isGate ? 'Gate: put-away of all its lots waits for the decision.' : null
  if (state === 'decided') return 'Nothing is left to decide: its goods are not here yet.'
  if (state === 'finished') return hasFailed ? 'What comes of it is decided once its goods are here, on hold.' : ''
  return `${isGate ? 'Gate: its receipt waits until this is finished. ' : ''}${isFailedOnly || 'If it is not acceptable, its goods come in on hold.'}`
}
