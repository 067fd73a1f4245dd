import { expect, it } from 'vitest'
import { dispatchState } from './dispatchState'

it('a dispatch that is not gone is said to be kept back by what was found first, then by what is still open', () => {
  const said = (state: 'planned' | 'picked' | 'sent' | 'cancelled', openChecks: number, failedChecks = 0) =>
    Object.values(dispatchState({ state, openChecks, failedChecks })).join(', ')
  expect(said('planned', 2, 1)).toBe('a check failed, ✕ failed, nonconforming')
  expect(said('picked', 1)).toBe('1 check open, 1 open, hold')
  expect(said('picked', 0)).toBe('picked, free to leave, free to leave, conforming')
  expect(said('sent', 1, 1)).toBe('has left, has left, soft')
  expect(said('cancelled', 1, 1)).toBe('cancelled, cancelled, soft')
})
