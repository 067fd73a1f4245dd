import { describe, expect, it } from 'vitest'
import { onlyEffective, saidInVain, withoutEffect } from './withoutEffect'

const lot = { moment: 'arrival', subject: 'lot', isGate: true } as const
const load = { ...lot, subject: 'load' } as const

describe('what a control point says without effect', () => {
  it('is nothing of a gate on lots that came in, or back', () => {
    for (const kind of ['receiving', 'transfer', 'return'] as const) expect(withoutEffect(kind, lot)).toEqual([])
  })

  it('is a sample, and pieces set aside, of a load, which has none', () => {
    expect(withoutEffect('receiving', load)).toEqual(['holds', 'setsAside'])
  })

  it('is what goods are kept from, where there is no gate, or they are on no way to a store', () => {
    expect(withoutEffect('receiving', { ...lot, isGate: false })).toEqual(['keepsFrom'])
    expect(withoutEffect('production', { ...lot, moment: 'end' })).toEqual(['keepsFrom'])
    expect(withoutEffect('shipping', { ...lot, moment: 'beforeDispatch' })).toEqual(['keepsFrom'])
    expect(withoutEffect('receiving', { ...load, moment: 'registered' })).toEqual(['holds', 'setsAside', 'keepsFrom'])
  })

  it('is found, and can be left out; what has an effect stays', () => {
    const said = { ...load, holds: 'all', keepsFrom: 'use', setsAside: true, advice: 'wipe it' } as const
    expect(saidInVain('receiving', said)).toBe('setsAside')
    expect(onlyEffective('receiving', said)).toEqual({ ...said, setsAside: false })
    expect(saidInVain('receiving', onlyEffective('receiving', said))).toBeNull()
    expect(saidInVain('receiving', { ...lot, holds: 'sample', keepsFrom: 'use', setsAside: true })).toBeNull()
  })
})
