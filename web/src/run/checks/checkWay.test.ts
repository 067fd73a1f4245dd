import { expect, it } from 'vitest'
import { isLate, wayTo } from './checkWay'

it('a check leads to the bench while it is recorded, and to the decision once it is finished', () => {
  expect(wayTo({ id: 'i', state: 'toDo' })).toBe('/record/i')
  expect(wayTo({ id: 'i', state: 'started' })).toBe('/record/i')
  expect(wayTo({ id: 'i', state: 'finished' })).toBe('/contain/i')
})

it('a check is late after the moment that it was due at, and never where none was set', () => {
  const due = '2026-03-01T10:00:00Z'
  expect([isLate({ dueAt: due }, Date.parse(due)), isLate({ dueAt: due }, Date.parse(due) + 1), isLate({ dueAt: null }, Infinity)]).toEqual([
    false,
    true,
    false,
  ])
})
