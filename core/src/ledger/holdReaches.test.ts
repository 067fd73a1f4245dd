import { expect, it } from 'vitest'
import { holdReaches } from './holdReaches'

it('a hold on a lot reaches all of it, one on a container that alone, and what lies loose is in none', () => {
  const [lot, box] = [{ containerId: null }, { containerId: 'box' }]
  expect([holdReaches(lot, lot), holdReaches(lot, box), holdReaches(box, box)]).toEqual([true, true, true])
  expect([holdReaches(box, lot), holdReaches(box, { containerId: 'other' })]).toEqual([false, false])
})
