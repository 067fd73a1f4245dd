import { expect, it } from 'vitest'
import { wayTo } from './checkWay'

it('a check leads to the bench while it is recorded, and to the decision once it is finished', () => {
  expect(wayTo({ id: 'i', state: 'toDo' })).toBe('/record/i')
  expect(wayTo({ id: 'i', state: 'started' })).toBe('/record/i')
  expect(wayTo({ id: 'i', state: 'finished' })).toBe('/contain/i')
})
