import { expect, it } from 'vitest'
import { bellCurve } from './bellCurve'

it('the picture shows what lies outside, and no area where nothing does', () => {
  const facts = { mean: 5, spread: 1 }
  expect(bellCurve(facts, { lower: 0, upper: 10 }, 100, 50)).toMatchObject({ outside: [], limits: [0, 100], mean: 50 })
  expect(bellCurve(facts, { lower: 4, upper: null }, 100, 50)).toMatchObject({ outside: [expect.stringMatching(/^M0 50L/)], limits: [37.5] })
})
