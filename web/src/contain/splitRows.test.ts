import { describe, expect, it } from 'vitest'
import { gapOf, heldByContainer, numberOf, type SplitDraft } from './splitRows'

const row = (containerId: string | null, quantity: string): SplitDraft => ({
  key: 0,
  containerId,
  containerLabel: containerId,
  quantity,
  disposition: 'release',
  reason: '',
})

describe('a decision while it is made', () => {
  it('adds the held pieces of a container up over its places and leaves the rest out', () => {
    const at = (containerId: string | null, quantity: number, standing = 'onHold') => ({
      standing,
      containerId,
      containerLabel: containerId,
      quantity,
    })
    expect(heldByContainer([at('K-01', 100), at('K-01', 8), at('K-02', 40, 'released'), at(null, 5)])).toEqual([
      { containerId: 'K-01', containerLabel: 'K-01', quantity: 108 },
      { containerId: null, containerLabel: null, quantity: 5 },
    ])
  })

  it('knows what is left over, what is too many and what cannot be read', () => {
    const held = { containerId: 'K-01', containerLabel: 'K-01', quantity: 108 }
    expect(gapOf(held, [row('K-01', '100'), row('K-01', '8')])).toBe(0)
    expect(gapOf(held, [row('K-01', '100'), row('K-02', '8')])).toBe(8)
    expect(gapOf(held, [row('K-01', '1 080')])).toBe(-972)
    expect(gapOf(held, [row('K-01', 'ten')])).toBeNaN()
    expect(numberOf('1.5')).toBeNaN()
  })
})
