import type { RuledPoint, WeeklyLoad } from '@nemawashi/core'
import { describe, expect, it } from 'vitest'
import { whole } from '../../format/format'
import { beforeAndAfter, differenceWords, loadWords, scopeOf, timeWords } from './pastLoad'

const week = (change: Partial<WeeklyLoad> = {}): WeeklyLoad => ({
  from: '2026-03-02',
  occasions: 4,
  inFact: 0,
  inspections: 3,
  pieces: 40,
  minutes: 100,
  untimed: 0,
  ...change,
})

describe('whose occasions a change is tried on', () => {
  const part = { partId: 'P', familyId: null }
  const family = { partId: null, familyId: 'F' }
  const every = { partId: null, familyId: null }
  it('are those of the wider of its reaches, before and after', () => {
    expect(scopeOf([part], 'F')).toEqual({ partId: 'P' })
    expect(scopeOf([part, family], 'F')).toEqual({ familyId: 'F' })
    expect(scopeOf([family, every], 'F')).toEqual({})
    expect(scopeOf([part, { partId: 'Q', familyId: null }], null)).toEqual({})
  })
})

describe('control points before and after a change', () => {
  it('have the changed one in its place, and a new one beside the others', () => {
    const points = [{ id: 'a' }, { id: 'b' }] as never
    const ids = (id: string) => beforeAndAfter(points, { id } as RuledPoint).map((set) => set.map((entry) => entry.id))
    expect(ids('a')).toEqual([
      ['a', 'b'],
      ['b', 'a'],
    ])
    expect(ids('new')[1]).toEqual(['a', 'b', 'new'])
  })
})

describe('a load in words', () => {
  it('tells all and a month of it, with a decimal where little happens', () => {
    expect(loadWords([week()], 30)).toBe('3 inspections, 40 pieces, 100 min')
    expect(loadWords([week({ inspections: 120, pieces: 5000, minutes: 7200 })], 365)).toBe(
      `120 inspections, ${whole(5000)} pieces, 120 h; a month 10 inspections, 417 pieces, 10 h`,
    )
    expect(loadWords([week({ inspections: 5, pieces: 50 })], 365)).toContain('a month 0.4 inspections, 4.2 pieces')
    expect(loadWords([week({ inspections: 0, pieces: 0, minutes: 0 })], 365)).toBe('0 inspections, 0 pieces, 0 min')
    expect([timeWords(119), timeWords(121)]).toEqual(['119 min', '2 h'])
  })

  it('tells what is more and what is less, and nothing where it is the same', () => {
    expect(differenceWords([week()], [week({ inspections: 1, pieces: 60, minutes: 90 })])).toBe('2 inspections fewer, 20 pieces more, 10 min less')
    expect(differenceWords([week()], [week()])).toBe('')
  })
})
