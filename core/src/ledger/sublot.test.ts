import { expect, it } from 'vitest'
import { eventsOf, isOfEvent, keepEvents, restOfLot, setApart } from './sublot'

it('pieces are of the events that set them apart, in their order, and of each once', () => {
  const picked = setApart(restOfLot, 'dispatch')
  const back = setApart(picked, 'return')
  expect([eventsOf(restOfLot), eventsOf(back)]).toEqual([[], ['dispatch', 'return']])
  expect(setApart(back, 'dispatch')).toBe(back)
  expect([isOfEvent(back, 'dispatch'), isOfEvent(back, 'disp')]).toEqual([true, false])
})

it('what is told apart no longer is of the others, or of the rest of its lot', () => {
  expect(keepEvents('a/b/c', (id) => id !== 'b')).toBe('a/c')
  expect(keepEvents('a/b', () => false)).toBe(restOfLot)
})
