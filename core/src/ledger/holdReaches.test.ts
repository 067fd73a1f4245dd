import { expect, it } from 'vitest'
import { holdReaches, wholeLot } from './holdReaches'
import { restOfLot } from './sublot'

const spot = (containerId: string | null, sublot = restOfLot) => ({ containerId, sublot })

it('a hold on a lot reaches all of it, one on a container that alone, and what lies loose is in none', () => {
  const box = { containerId: 'box', eventId: null }
  expect([holdReaches(wholeLot, spot(null)), holdReaches(wholeLot, spot('box')), holdReaches(box, spot('box'))]).toEqual([true, true, true])
  expect([holdReaches(box, spot(null)), holdReaches(box, spot('other'))]).toEqual([false, false])
})

it('one on the pieces of an event reaches those, whatever set them apart before or after, and no others of their lot', () => {
  const ofReturn = { containerId: null, eventId: 'return' }
  expect(['return', 'dispatch/return', 'dispatch/return/later'].map((sublot) => holdReaches(ofReturn, spot(null, sublot)))).toEqual([
    true,
    true,
    true,
  ])
  expect([restOfLot, 'dispatch', 'other/dispatch'].map((sublot) => holdReaches(ofReturn, spot(null, sublot)))).toEqual([false, false, false])
  expect(holdReaches({ containerId: 'box', eventId: 'return' }, spot('other', 'return'))).toBe(false)
})
