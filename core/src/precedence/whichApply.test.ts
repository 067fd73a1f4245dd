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

  it('all open when they ask different questions', () => {
    expect(whichApply([reach('a', 'plan-1', null, null), reach('b', 'plan-2', 'bar-16', null)], subject).every(({ opens }) => opens)).toBe(true)
  })

  it('are left out for another part, family or supplier', () => {
    expect(whichApply([reach('a', 'plan-1', 'bar-20', null), reach('b', 'plan-1', null, 'other')], subject)).toEqual([])
    expect(whichApply([{ ...reach('c', 'plan-1', null, null), familyId: null }], { ...subject, familyId: null })).toEqual([])
  })
})
