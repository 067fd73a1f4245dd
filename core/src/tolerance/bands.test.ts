import { describe, expect, it } from 'vitest'
import { readAnswer } from './answers'
import { gateLine } from './gateLine'
import { bandEdges, bandWords, type MarginalBand } from './marginalBand'

const refused = (facts: object) => expect.objectContaining({ code: 'band_invalid', facts: { ...facts, field: 'band' } })
const band = (side: 'inside' | 'outside', amount: string): MarginalBand => ({ side, width: { kind: 'amount', amount }, countsAsConforming: false })
const share = (base: 'nominal' | 'limit' | 'width'): MarginalBand => ({
  side: 'outside',
  width: { kind: 'percentage', percent: '10', base },
  countsAsConforming: false,
})
const both = { nominal: null, lower: '2', upper: '3' }

describe('the edges of a marginal band', () => {
  it('lie at one limit where there is one', () => {
    expect(bandEdges({ ...both, lower: null }, band('inside', '0.1'))).toEqual({
      innerLower: null,
      innerUpper: '2.9',
      outerLower: null,
      outerUpper: '3',
    })
    expect(bandEdges({ ...both, upper: null }, band('outside', '0.1'))).toEqual({
      innerLower: '2',
      innerUpper: null,
      outerLower: '1.9',
      outerUpper: null,
    })
    expect(bandEdges({ ...both, upper: null }, share('limit'))).toMatchObject({ outerLower: '1.8' })
    expect(bandWords({ ...both, upper: null }, band('outside', '0.1'), 'mm')).toMatch(
      /^Conforms 2 or more mm.* as far as 1\.9 mm, counted as nonconforming/,
    )
    expect(bandWords({ ...both, lower: null }, band('inside', '0.1'), 'mm')).toMatch(/^Conforms up to 2\.9 mm.* as far as 3 mm/)
  })

  it('may meet inside the limits and not cross; outside they go as far as they like', () => {
    expect(bandEdges(both, band('inside', '0.5'))).toMatchObject({ innerLower: '2.5', innerUpper: '2.5' })
    expect(() => bandEdges(both, band('inside', '0.51'))).toThrow(refused({ innerLower: '2.51', innerUpper: '2.49' }))
    expect(bandEdges(both, band('outside', '7'))).toMatchObject({ outerLower: '-5', outerUpper: '10' })
  })

  it('need the base that they are stated of', () => {
    expect(() => bandEdges(both, share('nominal'))).toThrow(refused({ base: 'nominal' }))
    expect(() => bandEdges(both, share('nominal'))).toThrow(/10 % of the nominal needs a nominal value/)
    for (const limits of [
      { ...both, lower: null },
      { ...both, upper: null },
    ])
      expect(() => bandEdges(limits, share('width'))).toThrow(/10 % of the tolerance width needs both limits/)
    expect(() => bandEdges(both, band('inside', '-1'))).toThrow(refused({ received: '-1' }))
  })
})

describe('an answer O or X', () => {
  const judged = { ...gateLine, kind: 'judged' } as const
  it('may be typed small and with blanks; nothing else is one', () => {
    expect(readAnswer(judged, ' o ')).toEqual({ value: 'O', mark: 'conforming', entered: null })
    expect(readAnswer(judged, 'x')).toEqual({ value: 'X', mark: 'nonconforming', entered: null })
    for (const text of ['', 'OX', '0', 'y'])
      expect(() => readAnswer(judged, text), text).toThrow(expect.objectContaining({ code: 'answer_invalid', facts: { received: text } }))
  })
})
