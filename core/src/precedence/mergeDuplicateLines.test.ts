import fc from 'fast-check'
import { expect, it } from 'vitest'
import { mergeDuplicateLines, type Ask, type PointLine } from './mergeDuplicateLines'

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
  const [free, gate] = mergeDuplicateLines([
    ask('free', [line('bore', 20), line('burr', 5)], false),
    ask('gate', [line('bore', 8, { isRequired: true })]),
  ])
  expect(gate?.lines).toMatchObject([{ question: 'bore', sampleSize: 20, isRequired: true, alsoFor: [{ id: 'free', sampleSize: 20 }] }])
  expect(free?.lines).toMatchObject([{ question: 'burr', sampleSize: 5, alsoFor: [] }])
  expect(free?.leftOut).toMatchObject([{ line: { question: 'bore' }, askedBy: 'gate' }])
})

it('of two samples as large, the one that accepts less counts', () => {
  const [first] = mergeDuplicateLines([ask('a', [line('bore', 8, { accept: 1 })]), ask('b', [line('bore', 8)])])
  expect(first?.lines).toMatchObject([{ sampleSize: 8, accept: 0 }])
})

it('a line that follows its own history is asked by each', () => {
  const asks = [ask('a', [line('bore', 8, { isByHistory: true })]), ask('b', [line('bore', 13)])]
  expect(mergeDuplicateLines(asks).map(({ lines }) => lines.map(({ sampleSize }) => sampleSize))).toEqual([[8], [13]])
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
          entry.lines.map((each) => line(each.question, each.sampleSize, each)),
          entry.isGate,
          entry.holds,
        ),
      )
      const asked = mergeDuplicateLines(asks)
      for (const question of ['bore', 'burr', 'width']) {
        const wanted = asks.flatMap((entry) => entry.lines.filter((asking) => asking.question === question).map((asking) => ({ entry, of: asking })))
        const found = asked.flatMap((entry, i) =>
          entry.lines.filter((asking) => asking.question === question).map((asking) => ({ entry: asks[i], of: asking })),
        )
        expect(found).toHaveLength(wanted.length === 0 ? 0 : 1)
        const [one] = found
        if (!one) continue
        expect(one.of.sampleSize).toBe(Math.max(...wanted.map(({ of: asking }) => asking.sampleSize)))
        expect(one.of.isDecisive).toBe(wanted.some(({ of: asking }) => asking.isDecisive))
        // What any of them would keep from going on is still kept.
        if (wanted.some(({ entry }) => entry.isGate)) expect(one.entry?.isGate).toBe(true)
        if (wanted.some(({ entry }) => entry.isGate && entry.holds === 'all')) expect(one.entry?.holds).toBe('all')
      }
    }),
  )
})
