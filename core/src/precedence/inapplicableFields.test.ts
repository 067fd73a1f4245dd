import { describe, expect, it } from 'vitest'
import { onlyApplicable, findInapplicable, inapplicableFields } from './inapplicableFields'

const lot = { moment: 'arrival', subject: 'lot', isGate: true } as const
const load = { ...lot, subject: 'load' } as const

describe('what a control point says without effect', () => {
  it('is nothing of a gate on lots that came in, or back', () => {
    for (const kind of ['receiving', 'transfer', 'return'] as const) expect(inapplicableFields(kind, lot)).toEqual([])
  })

  it('is a sample, and pieces set aside, of a load, which has none', () => {
    expect(inapplicableFields('receiving', load)).toEqual(['holds', 'setsAside'])
  })

  it('is what goods are kept from, where there is no gate, or they are on no way to a store', () => {
    expect(inapplicableFields('receiving', { ...lot, isGate: false })).toEqual(['keepsFrom'])
    expect(inapplicableFields('production', { ...lot, moment: 'end' })).toEqual(['keepsFrom'])
    expect(inapplicableFields('shipping', { ...lot, moment: 'beforeDispatch' })).toEqual(['keepsFrom'])
    expect(inapplicableFields('receiving', { ...load, moment: 'registered' })).toEqual(['holds', 'setsAside', 'keepsFrom'])
  })

  it('is found, and can be left out; what has an effect stays', () => {
    const said = { ...load, holds: 'all', keepsFrom: 'use', setsAside: true, advice: 'wipe it' } as const
    expect(findInapplicable('receiving', said)).toBe('setsAside')
    expect(onlyApplicable('receiving', said)).toEqual({ ...said, setsAside: false })
    expect(findInapplicable('receiving', onlyApplicable('receiving', said))).toBeNull()
    expect(findInapplicable('receiving', { ...lot, holds: 'sample', keepsFrom: 'use', setsAside: true })).toBeNull()
  })
})
