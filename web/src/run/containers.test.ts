import { describe, expect, it } from 'vitest'
import { parseContainers } from './containers'

describe('containers as they are typed', () => {
  it('are amounts in a row', () => {
    expect(parseContainers(' 120  120;96 ')).toEqual([120, 120, 96])
    expect(parseContainers('')).toEqual([])
  })

  it('that are no numbers stay in sight as what they are, to be refused', () => {
    expect(parseContainers('120 x')).toEqual([120, NaN])
  })
})
