import { describe, expect, it } from 'vitest'
import { parseContainers, usualContainers } from './containers'

describe('containers as they are typed', () => {
  it('are amounts in a row', () => {
    expect(parseContainers(' 120  120;96 ')).toEqual([120, 120, 96])
    expect(parseContainers('')).toEqual([])
  })

  it('that are no numbers stay in sight as what they are, to be refused', () => {
    expect(parseContainers('120 x')).toEqual([120, NaN])
  })

  it('are offered as they usually come, full ones first; not where there is no usual one, or too many', () => {
    expect(usualContainers(75, 25)).toEqual([25, 25, 25])
    expect(usualContainers(60, 25)).toEqual([25, 25, 10])
    expect(usualContainers(10, 25)).toEqual([10])
    expect([usualContainers(75, null), usualContainers(NaN, 25), usualContainers(0, 25), usualContainers(500, 1)]).toEqual([[], [], [], []])
  })
})
