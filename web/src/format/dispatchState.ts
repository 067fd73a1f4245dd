import type { DispatchRow } from '@nemawashi/contract'
import { count, dispatchWords } from './format'

/** How far a dispatch is: what keeps it back where something does. In words, and as short as a column has room for. */
export function dispatchState({ state, openChecks, failedChecks }: Pick<DispatchRow, 'state' | 'openChecks' | 'failedChecks'>): {
  words: string
  short: string
  tone: 'nonconforming' | 'hold' | 'conforming' | 'soft'
} {
  const isAtWork = state === 'planned' || state === 'picked'
  if (isAtWork && failedChecks > 0) return { words: 'a check failed', short: '✕ failed', tone: 'nonconforming' }
  if (isAtWork && openChecks > 0) return { words: `${count(openChecks, 'check')} open`, short: `${openChecks} open`, tone: 'hold' }
  return {
    words: dispatchWords[state],
    short: state === 'picked' ? 'free to leave' : dispatchWords[state],
    tone: state === 'picked' ? 'conforming' : 'soft',
  }
}
