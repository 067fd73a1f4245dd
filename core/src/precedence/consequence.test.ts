import { expect, it } from 'vitest'
import { freesItself, usualConsequence } from './consequence'

it('a finding frees its pieces where the control point says so, it is acceptable, and nothing was skipped', () => {
  const free = { whenConforming: 'free' } as const
  expect(freesItself(free, 'acceptable', 0)).toBe(true)
  expect(freesItself(free, 'notAcceptable', 0)).toBe(false)
  expect(freesItself(free, 'acceptable', 1)).toBe(false)
  expect(freesItself({ whenConforming: 'decide' }, 'acceptable', 0)).toBe(false)
})

it('where nothing is said, somebody decides at the bench, and nobody is told', () => {
  expect(usualConsequence).toEqual({ whenConforming: 'decide', advice: '', followPlanId: null, answeredAt: 'bench', tells: [] })
})
