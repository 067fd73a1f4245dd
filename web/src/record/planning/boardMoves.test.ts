import { expect, it } from 'vitest'
import { pageAfter, placeAfter } from './boardMoves'

const board = { people: [{ id: 'ilse' }, { id: 'rosa' }], days: ['2026-03-05', '2026-03-06', '2026-03-09'] }
const nobody = { personId: null, day: null }
const at = (personId: string, day: string | null) => ({ personId, day })

it('arrows lead from nobody to the first day of the first person, and left of it back to nobody', () => {
  for (const key of ['ArrowDown', 'ArrowUp', 'ArrowRight', 'ArrowLeft']) expect(placeAfter(key, nobody, board)).toEqual(at('ilse', '2026-03-05'))
  expect(placeAfter('ArrowLeft', at('ilse', '2026-03-05'), board)).toEqual(nobody)
})

it('arrows lead from day to day and from person to person, and not over the edge', () => {
  expect(placeAfter('ArrowRight', at('ilse', '2026-03-05'), board)).toEqual(at('ilse', '2026-03-06'))
  expect(placeAfter('ArrowRight', at('ilse', '2026-03-09'), board)).toEqual(at('ilse', '2026-03-09'))
  expect(placeAfter('ArrowDown', at('ilse', '2026-03-06'), board)).toEqual(at('rosa', '2026-03-06'))
  expect(placeAfter('ArrowDown', at('rosa', '2026-03-06'), board)).toEqual(at('rosa', '2026-03-06'))
  expect(placeAfter('ArrowRight', at('rosa', null), board)).toEqual(at('rosa', '2026-03-05'))
  expect(placeAfter('x', at('rosa', null), board)).toBeNull()
})

it('a page on begins on the next day of work, a page back as many days of work before', () => {
  const week = ['2026-03-09', '2026-03-10', '2026-03-11', '2026-03-12', '2026-03-13']
  expect(pageAfter(1, week)).toBe('2026-03-16')
  expect(pageAfter(-1, week)).toBe('2026-03-02')
  expect(pageAfter(-1, ['2026-03-05', '2026-03-06', '2026-03-09', '2026-03-10', '2026-03-11'])).toBe('2026-02-26')
})
