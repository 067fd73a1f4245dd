import { describe, expect, it } from 'vitest'
import { dispatchTransitions, dispatchStates } from './dispatchStates'
import { expectedTransitions, expectedStates } from './expectedDelivery'
import { inspectionTransitions, inspectionStates, isOpen, isSettled } from './inspectionStates'
import { isFinal, canTransition, type StateMachine } from './stateMachine'
import { revisionTransitions, revisionStates } from './revisionStates'

const lives: readonly (readonly [string, StateMachine<string>, readonly string[], string])[] = [
  ['an inspection', inspectionTransitions, inspectionStates, 'toDo'],
  ['a revision', revisionTransitions, revisionStates, 'draft'],
  ['an expected delivery', expectedTransitions, expectedStates, 'announced'],
  ['a dispatch', dispatchTransitions, dispatchStates, 'planned'],
]

/** States that one comes to from here, by any acts. */
function reached(life: StateMachine<string>, from: string, seen = new Set([from])): Set<string> {
  for (const [act, { to }] of Object.entries(life)) {
    if (to !== null && canTransition(life, act, from) && !seen.has(to)) reached(life, to, seen.add(to))
  }
  return seen
}

describe.each(lives)('the life of %s', (_name, life, states, first) => {
  it('comes to every state that there is, and to no other', () => {
    expect([...reached(life, first)].sort()).toEqual([...states].sort())
  })

  it('can end from wherever it is', () => {
    for (const state of states) expect([...reached(life, state)].some((other) => isFinal(life, other))).toBe(true)
  })
})

describe('an inspection', () => {
  it('takes readings until it is finished, and is waited for until it is decided or cancelled', () => {
    expect(inspectionStates.filter(isOpen)).toEqual(['toDo', 'started'])
    expect(inspectionStates.filter(isSettled)).toEqual(['decided', 'cancelled'])
  })

  it('is taken up again only before it is decided', () => {
    expect(inspectionStates.filter((state) => canTransition(inspectionTransitions, 'reopen', state))).toEqual(['finished'])
  })
})

describe('an expected delivery', () => {
  it('is received from where it is, in one step or in two, and is refused only before that', () => {
    const from = (act: keyof typeof expectedTransitions) => expectedStates.filter((state) => canTransition(expectedTransitions, act, state))
    expect([from('register'), from('receive'), from('refuse')]).toEqual([['announced'], ['announced', 'registered'], ['announced', 'registered']])
  })
})

describe('a revision', () => {
  it('is changed no more once it is released, and never comes back', () => {
    expect(revisionStates.filter((state) => canTransition(revisionTransitions, 'discard', state))).toEqual(['draft'])
    expect(reached(revisionTransitions, 'retired')).toEqual(new Set(['retired']))
    expect(reached(revisionTransitions, 'released').has('draft')).toBe(false)
  })
})
