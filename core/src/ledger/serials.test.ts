import { describe, expect, it } from 'vitest'
import { maxSerials, serialsFor, serialsIn } from './serials'

describe('serial numbers as they are typed', () => {
  it('stand with blanks, commas or line ends between them, runs with their first and last', () => {
    expect(serialsIn(' A-1, A-2\nB7;C ')).toEqual(['A-1', 'A-2', 'B7', 'C'])
    expect(serialsIn('A-008..A-011 X')).toEqual(['A-008', 'A-009', 'A-010', 'A-011', 'X'])
    expect(serialsIn('7..7')).toEqual(['7'])
    expect(serialsIn('')).toEqual([])
  })

  it.each(['A..', '..A', 'A1..B2', 'A1..A10', '5..3', 'A..B', '1..2..3', 'A-1 A-2 A-1', 'A-1..A-3 A-2', `0000..${maxSerials}`.replace('..', '..0')])(
    'refuses %s, with what was received',
    (text) => expect(() => serialsIn(text)).toThrow(expect.objectContaining({ code: 'serials_not_understood' })),
  )

  it('are at most so many at once', () => {
    expect(serialsIn(`0001..0${maxSerials}`)).toHaveLength(maxSerials)
    expect(() => serialsIn(`0001..0${maxSerials} x`)).toThrow(/more than 500/)
  })

  it('are given by the plant from the number of the lot, all as long and none twice', () => {
    expect(serialsFor('L-000042', 2)).toEqual(['42-001', '42-002'])
    const many = serialsFor('L-000042', 1200)
    expect(new Set(many.map(({ length }) => length)).size).toBe(1)
    expect(new Set(many).size).toBe(1200)
  })
})
