import { describe, expect, it } from 'vitest'
import { loadHolds } from './loadHolds'

const look = (change: object = {}) =>
  loadHolds({ state: 'toDo', isGate: true, onFailure: 'hold', originKind: 'delivery', finding: { verdict: 'notJudged' }, ...change })
const failed = { state: 'finished', finding: { verdict: 'notAcceptable' } }

describe('what hangs on the look at a load', () => {
  it('is the put-away of its lots where they are here, and nothing of its own where it is no gate', () => {
    expect([look(), look({ isGate: false }), look({ state: 'decided' })]).toEqual([
      'Gate: put-away of all its lots waits for the decision.',
      null,
      '',
    ])
  })

  it('is its receipt where that is not posted, and the goods where it failed', () => {
    const announced = { originKind: 'deliveryAnnounced' }
    expect(look(announced)).toMatch(/^Gate: its receipt waits.*come in on hold/)
    expect(look({ ...announced, isGate: false, onFailure: 'note' })).toBe('A failure is only noted.')
    expect(look({ ...announced, ...failed })).toMatch(/decided once its goods are here/)
    expect(look({ ...announced, state: 'decided' })).toMatch(/Nothing is left/)
  })

  it('is the dispatch, which it keeps back until it is acceptable', () => {
    const dispatch = { originKind: 'dispatch' }
    expect(look(dispatch)).toMatch(/^Gate: the dispatch waits.*keeps the dispatch back/)
    expect(look({ ...dispatch, ...failed })).toMatch(/reopen it once that is mended/)
    expect(look({ ...dispatch, ...failed, isGate: false, onFailure: 'note' })).toBe('')
    expect(look({ ...dispatch, state: 'decided' })).toBe('')
  })
})
