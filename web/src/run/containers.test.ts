import { describe, expect, it } from 'vitest'
import { labelled, parseContainers } from './containers'

describe('containers as they are typed', () => {
  it('are amounts in a row, labelled in that order', () => {
    expect(labelled(parseContainers(' 120  120;96 '))).toEqual([
      { label: 'K-01', quantity: 120 },
      { label: 'K-02', quantity: 120 },
      { label: 'K-03', quantity: 96 },
    ])
    expect(parseContainers('')).toEqual([])
  })

  it('that are no numbers stay in sight as what they are, to be refused', () => {
    expect(parseContainers('120 x')).toEqual([120, NaN])
  })
})
