import { expect, it } from 'vitest'
import { intervalOf, isMomentOf, looksAt, moments, momentsOf, momentWords, describeMoment, stepBlocked, type OperationKind } from './moments'

it('every kind of operation has its moments, and no other', () => {
  const found = (Object.keys(momentsOf) as OperationKind[]).map((kind) => [kind, moments.filter((moment) => isMomentOf(kind, moment))])
  expect(found).toEqual([
    ['receiving', ['announced', 'registered', 'arrival']],
    ['production', ['start', 'everyPieces', 'everyMinutes', 'setUp', 'lastPiece', 'end']],
    ['transfer', ['arrival']],
    ['shipping', ['beforePicking', 'beforeDispatch']],
    ['return', ['arrival']],
  ])
})

it('a gate blocks the step that comes after it', () => {
  expect([
    stepBlocked('receiving', 'announced'),
    stepBlocked('receiving', 'registered'),
    stepBlocked('receiving', 'arrival'),
    stepBlocked('production', 'start'),
    stepBlocked('production', 'end'),
    stepBlocked('shipping', 'beforePicking'),
    stepBlocked('shipping', 'beforeDispatch'),
    stepBlocked('return', 'arrival'),
  ]).toEqual(['receive', 'receive', 'putAway', 'goOn', 'nextStep', 'pick', 'dispatch', 'putAway'])
})

it('a moment that comes again says after how many pieces or minutes', () => {
  expect(moments.filter((moment) => intervalOf(moment) !== null)).toEqual(['everyPieces', 'everyMinutes'])
  expect([describeMoment('everyPieces', 50), describeMoment('everyMinutes', 30), describeMoment('start', null)]).toEqual([
    'every 50 pieces while it runs',
    'every 30 minutes while it runs',
    'when the step is started (first piece)',
  ])
  expect([describeMoment('everyMinutes', 1), describeMoment('everyPieces', null), describeMoment('start', 5)]).toEqual([
    'every minute while it runs',
    momentWords.everyPieces,
    momentWords.start,
  ])
})

it('a load is looked at before what it brings, a lot before what is in it, and before the receipt, or before picking, there is nothing but the load', () => {
  expect(looksAt('receiving').map(({ moment, subject }) => `${moment} ${subject}`)).toEqual([
    'announced load',
    'registered load',
    'arrival load',
    'arrival lot',
    'arrival container',
    'arrival serial',
  ])
  expect(looksAt('shipping').map(({ moment, subject }) => `${moment} ${subject}`)).toEqual([
    'beforePicking load',
    'beforeDispatch load',
    'beforeDispatch lot',
    'beforeDispatch container',
    'beforeDispatch serial',
  ])
  // While a step runs its pieces are one; by their numbers they are told apart when it is confirmed.
  expect(looksAt('production').filter(({ subject }) => subject !== 'lot')).toEqual([{ moment: 'end', subject: 'serial' }])
})
