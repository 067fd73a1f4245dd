import { describe, expect, it } from 'vitest'
import { firstRows, gapOf, type SplitDraft } from './splitRows'

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
      firstRows(held, isAcceptable, setAside, 'piece').map(({ containerId, quantity, disposition }) => `${containerId} ${quantity} ${disposition}`)
    expect(said(true, 0)).toEqual(['K-01 40 release', 'K-02 60 release'])
    expect(said(true, 2)).toEqual(['K-01 40 release', 'K-02 58 release', 'K-02 2 quarantine'])
    expect(said(true, 60)).toEqual(['K-01 40 release', 'K-02 60 quarantine'])
    expect(said(false, 2)).toEqual(['K-01 40 quarantine', 'K-02 60 quarantine'])
  })

  it('knows what is left over, what is too many and what cannot be read', () => {
    const held = { containerId: 'K-01', containerLabel: 'K-01', quantity: 108 }
    expect(gapOf(held, [row('K-01', '100'), row('K-01', '8')], 'piece')).toBe(0)
    expect(gapOf(held, [row('K-01', '100'), row('K-02', '8')], 'piece')).toBe(8)
    expect(gapOf(held, [row('K-01', '1 080')], 'piece')).toBe(-972)
    expect(gapOf(held, [row('K-01', 'ten')], 'piece')).toBeNaN()
    expect(gapOf(held, [row('K-01', '106.5'), row('K-01', '1.5')], 'piece')).toBeNaN()
  })

  it('is typed and told in the decimals of the part', () => {
    const held = { containerId: 'K-01', containerLabel: 'K-01', quantity: 25_050 }
    expect(firstRows([held], true, 200, '0.01 kg').map(({ quantity }) => quantity)).toEqual(['248.50', '2.00'])
    expect(gapOf(held, [row('K-01', '248,5'), row('K-01', '2')], '0.01 kg')).toBe(0)
    expect(gapOf(held, [row('K-01', '248.495'), row('K-01', '2.005')], '0.01 kg')).toBeNaN()
  })
})
