import { describe, expect, it } from 'vitest'
import { firstRows, gapOf, numberOf, type SplitDraft } from './splitRows'

const row = (containerId: string | null, quantity: string): SplitDraft => ({
  key: 0,
  containerId,
  containerLabel: containerId,
  quantity,
  disposition: 'release',
  reason: '',
})

describe('a decision while it is made', () => {
  it('begins with everything released but what is set aside, or with nothing released where it is not acceptable', () => {
    const held = [
      { containerId: 'K-01', containerLabel: 'K-01', quantity: 40 },
      { containerId: 'K-02', containerLabel: 'K-02', quantity: 60 },
    ]
    const said = (isAcceptable: boolean, setAside: number) =>
      firstRows(held, isAcceptable, setAside).map(({ containerId, quantity, disposition }) => `${containerId} ${quantity} ${disposition}`)
    expect(said(true, 0)).toEqual(['K-01 40 release', 'K-02 60 release'])
    expect(said(true, 2)).toEqual(['K-01 40 release', 'K-02 58 release', 'K-02 2 quarantine'])
    expect(said(true, 60)).toEqual(['K-01 40 release', 'K-02 60 quarantine'])
    expect(said(false, 2)).toEqual(['K-01 40 quarantine', 'K-02 60 quarantine'])
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
