import fc from 'fast-check'
import { expect, it } from 'vitest'
import { askOnce, type Ask, type PointLine } from './askOnce'

const line = (question: string, sampleSize: number, more: Partial<PointLine> = {}): PointLine => ({
  question,
  sampleSize,
  accept: 0,
  isByHistory: false,
  isRequired: false,
  isDecisive: false,
  ...more,
})
const ask = (id: string, lines: PointLine[], isGate = true, holds: 'all' | 'sample' = 'all'): Ask<PointLine> => ({ id, isGate, holds, lines })

it('a line that two plans ask is asked once, by the gate, with the larger sample, and says for whom', () => {
  const [free, gate] = askOnce([ask('free', [line('bore', 20), line('burr', 5)], false), ask('gate', [line('bore', 8, { isRequired: true })])])
  expect(gate?.lines).toMatchObject([{ question: 'bore', sampleSize: 20, isRequired: true, alsoFor: [{ id: 'free', sampleSize: 20 }] }])
  expect(free?.lines).toMatchObject([{ question: 'burr', sampleSize: 5, alsoFor: [] }])
  expect(free?.leftOut).toMatchObject([{ line: { question: 'bore' }, askedBy: 'gate' }])
})

it('of two samples as large, the one that accepts less counts', () => {
  const [first] = askOnce([ask('a', [line('bore', 8, { accept: 1 })]), ask('b', [line('bore', 8)])])
  expect(first?.lines).toMatchObject([{ sampleSize: 8, accept: 0 }])
})

it('a line that follows its own history is asked by each', () => {
  const asks = [ask('a', [line('bore', 8, { isByHistory: true })]), ask('b', [line('bore', 13)])]
  expect(askOnce(asks).map(({ lines }) => lines.map(({ sampleSize }) => sampleSize))).toEqual([[8], [13]])
})

it('no question is lost, none is asked twice, and none with less than any of those that ask it', () => {
  const lines = fc.uniqueArray(
    fc.record({
      question: fc.constantFrom('bore', 'burr', 'width'),
      sampleSize: fc.integer({ min: 1, max: 50 }),
      accept: fc.nat(3),
      isDecisive: fc.boolean(),
    }),
    { selector: ({ question }) => question, maxLength: 3 },
  )
  const one = fc.record({ isGate: fc.boolean(), holds: fc.constantFrom('all' as const, 'sample' as const), lines })
  fc.assert(
    fc.property(fc.array(one, { maxLength: 5 }), (given) => {
      const asks = given.map((entry, i) =>
        ask(
          String(i),
          entry.lines.map((of) => line(of.question, of.sampleSize, of)),
          entry.isGate,
          entry.holds,
        ),
      )
      const asked = askOnce(asks)
      for (const question of ['bore', 'burr', 'width']) {
        const wanted = asks.flatMap((entry) => entry.lines.filter((of) => of.question === question).map((of) => ({ entry, of })))
        const found = asked.flatMap((entry, i) => entry.lines.filter((of) => of.question === question).map((of) => ({ entry: asks[i], of })))
        expect(found).toHaveLength(wanted.length === 0 ? 0 : 1)
        const [one] = found
        if (!one) continue
        expect(one.of.sampleSize).toBe(Math.max(...wanted.map(({ of }) => of.sampleSize)))
        expect(one.of.isDecisive).toBe(wanted.some(({ of }) => of.isDecisive))
        // What any of them would keep from going on is still kept.
        if (wanted.some(({ entry }) => entry.isGate)) expect(one.entry?.isGate).toBe(true)
        if (wanted.some(({ entry }) => entry.isGate && entry.holds === 'all')) expect(one.entry?.holds).toBe('all')
      }
    }),
  )
})
