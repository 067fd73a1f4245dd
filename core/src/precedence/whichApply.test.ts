import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { levelWords, describeApplied } from './describeApplied'
import { considerPoints, levelOf, precedence, whichApply, type Reach } from './whichApply'

const reach = (id: string, planId: string, partId: string | null, supplierId: string | null): Reach => ({
  id,
  planId,
  partId,
  familyId: partId === null ? 'bars' : null,
  supplierId,
  customerId: null,
  supplierGroup: null,
  contract: null,
})
const subject = { partId: 'bar-16', familyId: 'bars', supplierId: 'ridge', customerId: null, supplierGroup: 'forges', contract: 'K-9' }

describe('control points that could apply', () => {
  it('give way to a narrower one on the same question, and say why', () => {
    const applied = whichApply(
      [reach('family', 'plan-1', null, null), reach('part', 'plan-1', 'bar-16', null), reach('both', 'plan-1', 'bar-16', 'ridge')],
      subject,
    )
    expect(applied.map(({ point, opens }) => [point.id, opens])).toEqual([
      ['family', false],
      ['part', false],
      ['both', true],
    ])
    expect(applied[0]).toMatchObject({ level: 'family', supersededBy: 'partOfPartner' })
    expect(applied.map(describeApplied)).toEqual([
      'set for this family; the one for this part with this partner goes before it',
      'set for this part; the one for this part with this partner goes before it',
      'set for this part with this partner',
    ])
  })

  it('of the same reach all open, though they ask the same plan: none goes before the other', () => {
    const twins = [reach('one', 'plan-1', 'bar-16', null), reach('two', 'plan-1', 'bar-16', null)]
    expect(whichApply(twins, subject).map(({ opens }) => opens)).toEqual([true, true])
  })

  it('put a part before a family with a supplier, and a supplier before none', () => {
    const opened = (...points: Reach[]) => whichApply(points, subject).flatMap(({ point, opens }) => (opens ? [point.id] : []))
    expect(opened(reach('part', 'p', 'bar-16', null), reach('family of supplier', 'p', null, 'ridge'))).toEqual(['part'])
    expect(opened(reach('family', 'p', null, null), reach('family of supplier', 'p', null, 'ridge'))).toEqual(['family of supplier'])
    expect(whichApply([{ ...reach('other family', 'p', null, null), familyId: 'plates' }], subject)).toEqual([])
  })

  it('put one for the customer of the goods before one for any, and leave out that of another customer', () => {
    const forCustomer = (id: string, customerId: string) => ({ ...reach(id, 'p', null, null), customerId })
    const theirs = { ...subject, supplierId: null, customerId: 'harbour' }
    const opened = (...points: Reach[]) => whichApply(points, theirs).flatMap(({ point, opens }) => (opens ? [point.id] : []))
    expect(opened(reach('any', 'p', null, null), forCustomer('theirs', 'harbour'))).toEqual(['theirs'])
    expect(opened(reach('any', 'p', null, null), forCustomer('another', 'quarry'))).toEqual(['any'])
    expect(levelOf(forCustomer('theirs', 'harbour'))).toBe('familyOfPartner')
  })

  it('all open when they ask different questions', () => {
    expect(whichApply([reach('a', 'plan-1', null, null), reach('b', 'plan-2', 'bar-16', null)], subject).every(({ opens }) => opens)).toBe(true)
  })

  it('are left out for another part, family or supplier', () => {
    expect(whichApply([reach('a', 'plan-1', 'bar-20', null), reach('b', 'plan-1', null, 'other')], subject)).toEqual([])
    expect(whichApply([{ ...reach('c', 'plan-1', null, null) }], { ...subject, familyId: null })).toEqual([])
  })

  it('for every part come last, and one with a partner before one with none', () => {
    const all = (id: string, supplierId: string | null) => ({ ...reach(id, 'p', null, supplierId), familyId: null })
    const opened = (...points: Reach[]) => whichApply(points, subject).flatMap(({ point, opens }) => (opens ? [point.id] : []))
    expect(opened(all('all', null), all('all of ridge', 'ridge'))).toEqual(['all of ridge'])
    expect(opened(all('all of ridge', 'ridge'), reach('family', 'p', null, null))).toEqual(['family'])
  })

  it('put a contract before a partner, a partner before their group, and each of them behind narrower goods', () => {
    const opened = (...points: Reach[]) => whichApply(points, subject).flatMap(({ point, opens }) => (opens ? [point.id] : []))
    const family = reach('family', 'p', null, null)
    const ofGroup = { ...family, id: 'group', supplierGroup: 'forges' }
    const under = { ...family, id: 'contract', contract: 'K-9' }
    expect(opened(family, ofGroup)).toEqual(['group'])
    expect(opened(ofGroup, reach('partner', 'p', null, 'ridge'))).toEqual(['partner'])
    expect(opened(reach('partner', 'p', null, 'ridge'), under)).toEqual(['contract'])
    expect(opened(under, reach('part', 'p', 'bar-16', null))).toEqual(['part'])
    expect(
      considerPoints(
        [
          { ...ofGroup, supplierGroup: 'mills' },
          { ...under, contract: 'K-10' },
        ],
        subject,
      ).map(describeApplied),
    ).toEqual(['only for another group of suppliers', 'only under another contract'])
    expect(precedence.map((level) => levelWords[level])).toHaveLength(12)
    expect(precedence.slice(0, 5)).toEqual(['partUnderContract', 'partOfPartner', 'partOfGroup', 'part', 'familyUnderContract'])
    expect(precedence.at(-1)).toBe('everyPart')
  })

  it('say which condition failed', () => {
    const points = [
      reach('a', 'p', 'bar-20', null),
      { ...reach('b', 'p', null, 'other'), familyId: 'plates' },
      { ...reach('c', 'p', null, null), customerId: 'someone' },
      reach('d', 'p', null, 'other'),
    ]
    const considered = considerPoints(points, subject)
    expect(considered.map(({ mismatches }) => mismatches)).toEqual([['part'], ['family', 'supplier'], ['customer'], ['supplier']])
    expect(considered.map(describeApplied)).toEqual([
      'only for another part',
      'only for another family',
      'only for another customer',
      'only for another supplier',
    ])
  })

  it('open the same whatever the order in which they were entered', () => {
    const some = (ids: readonly string[]) => fc.option(fc.constantFrom(...ids), { nil: null })
    const point = fc.record({
      id: fc.uuid(),
      planId: fc.constantFrom('p', 'q'),
      partId: some(['bar-16', 'bar-20']),
      familyId: some(['bars']),
      supplierId: some(['ridge', 'other']),
      customerId: some(['someone']),
      supplierGroup: some(['forges', 'mills']),
      contract: some(['K-9', 'K-10']),
    })
    fc.assert(
      fc.property(fc.array(point, { maxLength: 12 }), fc.integer(), (points, turn) => {
        const opened = (points: readonly Reach[]) =>
          whichApply(points, subject)
            .flatMap(({ point: { id }, opens }) => (opens ? [id] : []))
            .sort()
        const by = Math.abs(turn) % Math.max(1, points.length)
        const turned = [...points.slice(by), ...points.slice(0, by)].reverse()
        expect(opened(turned)).toEqual(opened(points))
        // What reaches at all is never left without one that opens.
        for (const { point } of whichApply(points, subject))
          expect(whichApply(points, subject).some((entry) => entry.opens && entry.point.planId === point.planId)).toBe(true)
      }),
    )
  })
})
