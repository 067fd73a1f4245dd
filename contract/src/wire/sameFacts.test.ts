import { expect, it } from 'vitest'
import { sameFacts } from './sameFacts'

it('two values say the same whatever the order of their keys, and differ by any fact', () => {
  expect(sameFacts({ a: 1, b: [{ c: 'x', d: null }] }, { b: [{ d: null, c: 'x' }], a: 1 })).toBe(true)
  expect(sameFacts({ a: 1, b: undefined }, { a: 1 })).toBe(true)
  expect(sameFacts(undefined, undefined)).toBe(true)
  for (const other of [{ a: 2 }, { a: '1' }, { a: 1, b: null }, [1], null, { a: [1] }]) expect(sameFacts({ a: 1 }, other)).toBe(false)
  expect(sameFacts([1, 2], [2, 1])).toBe(false)
  expect(sameFacts([1], [1, 2])).toBe(false)
})
