import { expect, it } from 'vitest'
import type { Due } from './frequencyRule'
import { describeDue } from './describeDue'

it.each<readonly [Due, string]>([
  [{ isDue: true, because: { kind: 'first' } }, 'the first arrival'],
  [{ isDue: true, because: { kind: 'afterFailure', lots: 3 } }, '3 lots in full after one that was not accepted'],
  [{ isDue: true, because: { kind: 'interval', since: 4, k: 4 } }, '3 passed by since the last one'],
  [{ isDue: false, because: { kind: 'interval', since: 2, k: 4 } }, '2 of 4 since the last one'],
  [{ isDue: false, because: { kind: 'drawn', percent: 25 } }, 'not drawn, 25 % of the arrivals are'],
  [{ isDue: false, because: { kind: 'period', period: 'week' } }, 'one was inspected this week'],
  [{ isDue: true, because: { kind: 'order', order: '4711' } }, 'the first of order 4711'],
  [{ isDue: true, because: { kind: 'order', order: '' } }, 'it belongs to no order'],
  [{ isDue: false, because: { kind: 'hours', since: 3.26, hours: 8 } }, '3.3 of 8 hours since the last one'],
  [{ isDue: false, because: { kind: 'standing', row: 11, clearance: 10 } }, 'in good standing, 11 accepted in a row: the certificate is enough'],
  [{ isDue: true, because: { kind: 'earned', row: 2, clearance: 10, interval: null } }, '2 of 10 accepted in a row'],
  [
    { isDue: false, because: { kind: 'earned', row: 12, clearance: 10, interval: { since: 1, k: 5 } } },
    'skipping earned by 12 in a row; 1 of 5 since the last one',
  ],
])('%j is told as it is', (due, words) => expect(describeDue(due)).toBe(words))
