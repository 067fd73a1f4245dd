import { expect, it } from 'vitest'
import { isMomentOf, moments, momentsOf, stepBlocked, type OperationKind } from './moments'

it('every kind of operation has its moments, and no other', () => {
  const found = (Object.keys(momentsOf) as OperationKind[]).map((kind) => [kind, moments.filter((moment) => isMomentOf(kind, moment))])
  expect(found).toEqual([
    ['receiving', ['arrival']],
    ['production', ['start', 'end']],
    ['transfer', ['arrival']],
    ['shipping', ['beforeDispatch']],
    ['return', ['arrival']],
  ])
})

it('a gate blocks the step that comes after it', () => {
  expect([
    stepBlocked('receiving', 'arrival'),
    stepBlocked('production', 'start'),
    stepBlocked('production', 'end'),
    stepBlocked('shipping', 'beforeDispatch'),
    stepBlocked('return', 'arrival'),
  ]).toEqual(['putAway', 'confirmStep', 'nextStep', 'dispatch', 'putAway'])
})
