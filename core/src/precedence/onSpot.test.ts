import { describe, expect, it } from 'vitest'
import { moments, momentsOf, type OperationKind } from './moments'
import { answerPlaceWords, onSpotAt, spotAnswererOf } from './onSpot'

const kinds = Object.keys(momentsOf) as OperationKind[]

describe('what is answered on the spot', () => {
  it('are quick questions when goods arrive, and anything that a step asks of its operator', () => {
    const found = kinds.flatMap((kind) => moments.flatMap((moment) => (onSpotAt(kind, moment) === null ? [] : [`${kind} ${onSpotAt(kind, moment)}`])))
    expect(new Set(found)).toEqual(new Set(['receiving quick', 'production any']))
    expect(moments.filter((moment) => onSpotAt('receiving', moment) !== null)).toEqual(['arrival'])
  })

  it('has somebody to answer it wherever it may be so', () => {
    for (const kind of kinds)
      for (const moment of momentsOf[kind])
        if (onSpotAt(kind, moment) !== null) expect(spotAnswererOf(kind, 'spot'), `${kind} ${moment}`).not.toBeNull()
    expect(kinds.map((kind) => spotAnswererOf(kind, 'bench'))).toEqual(kinds.map(() => null))
    // What an earlier release kept says nothing of it.
    expect(spotAnswererOf('production', undefined as never)).toBeNull()
    expect(spotAnswererOf('production', 'spot')).toBe('productionOperator')
  })

  it('is said as the place has it', () =>
    expect([answerPlaceWords('bench', 'any'), answerPlaceWords('spot', 'any')]).toEqual([
      'at the bench',
      'at the step by its operator (self-inspection)',
    ]))
})
