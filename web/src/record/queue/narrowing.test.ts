import type { QueueFacets } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { narrowingOf, restWords, toggled } from './narrowing'

const none: QueueFacets = { due: [], operationId: [], partId: [], supplierId: [], responsible: [], gate: [], assignedTo: [] }

it('an address narrows the queue down by what it says, and what makes no sense is left out', () => {
  expect(narrowingOf({ tab: 'open', due: 'late', gate: 'perhaps', assignedTo: '-', day: 'before', responsible: ['a', 'b'] })).toEqual({
    due: 'late',
    assignedTo: '-',
    day: 'before',
  })
})

it('a way is put on and taken off again, the rest of the address stays', () => {
  const on = toggled({ tab: 'open', q: 'pins' }, 'gate', 'yes')
  expect(on).toEqual({ tab: 'open', q: 'pins', gate: 'yes' })
  expect(toggled(on, 'gate', 'yes')).toEqual({ tab: 'open', q: 'pins' })
  expect(toggled(on, 'gate', 'no')).toEqual({ tab: 'open', q: 'pins', gate: 'no' })
})

it('what no facet shows is said in words, so that it can be taken off', () => {
  const facets = { ...none, gate: [{ value: 'yes', name: 'gate', count: 3 }] }
  expect(restWords({ gate: 'yes' }, facets)).toEqual([])
  expect(restWords({ gate: 'no', day: '2026-03-02', own: 'free' }, facets)).toEqual([
    { name: 'gate', words: 'gate: none is left' },
    { name: 'day', words: 'planned for 2026-03-02' },
    { name: 'own', words: 'of my own day' },
  ])
})
