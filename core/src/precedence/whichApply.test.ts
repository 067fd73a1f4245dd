import { describe, expect, it } from 'vitest'
import { whichApply, type Reach } from './whichApply'

const reach = (id: string, planId: string, partId: string | null, supplierId: string | null): Reach => ({
  id,
  planId,
  partId,
  familyId: partId === null ? 'bars' : null,
  supplierId,
})
const subject = { partId: 'bar-16', familyId: 'bars', supplierId: 'ridge' }

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
    expect(applied[0]?.why).toContain('goes before it')
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

  it('all open when they ask different questions', () => {
    expect(whichApply([reach('a', 'plan-1', null, null), reach('b', 'plan-2', 'bar-16', null)], subject).every(({ opens }) => opens)).toBe(true)
  })

  it('are left out for another part, family or supplier', () => {
    expect(whichApply([reach('a', 'plan-1', 'bar-20', null), reach('b', 'plan-1', null, 'other')], subject)).toEqual([])
    expect(whichApply([{ ...reach('c', 'plan-1', null, null), familyId: null }], { ...subject, familyId: null })).toEqual([])
  })
})
