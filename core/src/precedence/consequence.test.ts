import { expect, it } from 'vitest'
import { freesItself, releasable, usualConsequence } from './consequence'

it('a finding frees its pieces where the control point says so, it is acceptable, nothing was skipped and no piece is set aside', () => {
  const free = { whenConforming: 'free' } as const
  const none = { skips: 0, setAside: 0 }
  expect(freesItself(free, 'acceptable', none)).toBe(true)
  expect(freesItself(free, 'notAcceptable', none)).toBe(false)
  expect(freesItself(free, 'acceptable', { ...none, skips: 1 })).toBe(false)
  expect(freesItself(free, 'acceptable', { ...none, setAside: 1 })).toBe(false)
  expect(freesItself({ whenConforming: 'decide' }, 'acceptable', none)).toBe(false)
})

it('what is set aside is not among what can be released', () => {
  expect([releasable(100, 0), releasable(100, 3), releasable(2, 3)]).toEqual([100, 97, 0])
})

it('where nothing is said, somebody decides at the bench, and nobody is told', () => {
  expect(usualConsequence).toEqual({
    whenConforming: 'decide',
    advice: '',
    followPlanId: null,
    answeredAt: 'bench',
    tells: [],
    keepsFrom: 'putAway',
    setsAside: false,
  })
})
