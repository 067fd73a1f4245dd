import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CoreError } from '../errors'
import { checkNoCircle, missOf, ruleFor, type Piece, type PutAwayRule } from './putAway'

const rule = (id: string, toPlaceId: string, more: Partial<PutAwayRule> = {}): PutAwayRule => ({
  id,
  toPlaceId,
  partId: null,
  familyId: null,
  supplierId: null,
  standing: null,
  moment: 'always',
  fromPlaceId: null,
  toPurpose: 'dock',
  ...more,
})
const bars: Piece = { partId: 'bar', familyId: 'steel', supplierId: 'ridge', standing: 'released', placeId: 'dock' }
const families = new Map([['bar', 'steel']])
const circle = (rules: PutAwayRule[]) => {
  try {
    checkNoCircle(rules, families)
    return null
  } catch (error) {
    return error instanceof CoreError ? error.facts['places'] : error
  }
}

describe('rules of where pieces belong', () => {
  it('count in their order: the first that matches', () => {
    const rules = [rule('held', 'bay', { standing: 'onHold' }), rule('steel', 'rack', { familyId: 'steel' }), rule('all', 'shelf')]
    expect(ruleFor(rules, bars)?.id).toBe('steel')
    expect(ruleFor(rules, { ...bars, standing: 'onHold' })?.id).toBe('held')
    expect(ruleFor(rules, { ...bars, familyId: 'brass' })?.id).toBe('all')
    expect(ruleFor([], bars)).toBeNull()
  })

  it('say which condition is not met', () => {
    expect(missOf(rule('a', 'x', { partId: 'nut' }), bars)).toBe('part')
    expect(missOf(rule('a', 'x', { supplierId: 'other' }), bars)).toBe('supplier')
    expect(missOf(rule('a', 'x', { fromPlaceId: 'rack' }), bars)).toBe('place')
    expect(missOf(rule('a', 'x', { moment: 'arrival' }), bars)).toBe('moment')
    expect(missOf(rule('a', 'x', { moment: 'arrival' }), { ...bars, placeId: null })).toBeNull()
    expect(missOf(rule('a', 'x', { toPurpose: 'store' }), { ...bars, standing: 'onHold' })).toBe('purpose')
  })

  it('that send the same pieces round are refused, with the places', () => {
    const there = rule('there', 'rack', { fromPlaceId: 'dock' })
    expect(circle([there, rule('back', 'dock', { fromPlaceId: 'rack' })])).toEqual(['rack', 'dock', 'rack'])
    // Pieces that the one is for are not those that the other is for.
    expect(circle([there, rule('back', 'dock', { fromPlaceId: 'rack', standing: 'onHold', familyId: 'steel' })])).toEqual(['rack', 'dock', 'rack'])
    expect(circle([{ ...there, standing: 'released' }, rule('back', 'dock', { fromPlaceId: 'rack', standing: 'onHold' })])).toBeNull()
    // An earlier rule keeps the circle from coming about.
    expect(circle([rule('stays', 'rack', { fromPlaceId: 'rack' }), there, rule('back', 'dock', { fromPlaceId: 'rack' })])).toBeNull()
    expect(circle([rule('all', 'shelf')])).toBeNull()
    // A part belongs to its family: a rule for each makes a circle.
    expect(
      circle([rule('p', 'rack', { partId: 'bar', fromPlaceId: 'dock' }), rule('f', 'dock', { familyId: 'steel', fromPlaceId: 'rack' })]),
    ).toEqual(['rack', 'dock', 'rack'])
  })

  it('that are let through always come to an end, whatever the pieces and wherever they lie', () => {
    const some = (ids: readonly string[]) => fc.option(fc.constantFrom(...ids), { nil: null })
    const place = fc.constantFrom('dock', 'rack', 'bay')
    const one = fc.record({
      id: fc.uuid(),
      toPlaceId: place,
      fromPlaceId: some(['dock', 'rack', 'bay']),
      toPurpose: fc.constantFrom('dock' as const, 'store' as const, 'quarantine' as const),
      partId: some(['bar']),
      familyId: some(['steel']),
      supplierId: some(['ridge']),
      standing: fc.option(fc.constantFrom('released' as const, 'onHold' as const), { nil: null }),
      moment: fc.constantFrom('always' as const, 'arrival' as const, 'later' as const),
    })
    const piece = fc.record({
      partId: fc.constantFrom('bar', 'rod', 'nut'),
      supplierId: some(['ridge', 'other']),
      standing: fc.constantFrom('released' as const, 'onHold' as const, 'rejected' as const),
      placeId: place,
    })
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), piece, (rules, start) => {
        if (circle(rules) !== null) return
        const familyId = start.partId === 'nut' ? null : 'steel'
        let placeId: string = start.placeId
        for (let steps = 0; ; steps++) {
          const next = ruleFor(rules, { ...start, familyId, placeId })
          if (next === null || next.toPlaceId === placeId) break
          placeId = next.toPlaceId
          expect(steps).toBeLessThan(4)
        }
      }),
    )
  })
})
