import { fieldsOfRow, fileForm, fromFileForm, noDetails, rowOf, type CharacteristicFields, type CharacteristicLinks } from '@nemawashi/contract'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'

const text = fc.string({ minLength: 1, maxLength: 20, unit: fc.constantFrom(...'abcXYZ äß;=\\,"%°·-0') }).map((value) => value.trim() || 'x')
const fields: fc.Arbitrary<CharacteristicFields> = fc.record({
  name: text,
  kind: fc.constantFrom('measured', 'judged', 'coded', 'counted', 'noted'),
  class: fc.constantFrom('critical', 'major', 'minor'),
  method: text,
  instruction: text,
  nominal: fc.constantFrom(null, '5', '5.25'),
  lower: fc.constantFrom(null, '4.5'),
  upper: fc.constantFrom(null, '5.50'),
  unit: fc.constantFrom(null, 'mm', 'N·m'),
  resolution: fc.constantFrom(null, '0.01'),
  acceptableState: fc.option(text, { nil: null }),
  details: fc.record({
    typed: fc.constantFrom(null, '5 ±0.5'),
    band: fc.constantFrom(
      null,
      { side: 'inside', width: { kind: 'amount', amount: '0.05' }, countsAsConforming: true },
      { side: 'outside', width: { kind: 'percentage', percent: '10', base: 'width' }, countsAsConforming: false },
    ),
    rounding: fc.constantFrom(null, '0.1'),
    recording: fc.constantFrom('pieces', 'summary'),
    answerListId: fc.constant(null),
    answers: fc.array(
      fc.record({
        code: fc.constantFrom('A', 'B2', 'x'),
        words: text,
        verdict: fc.constantFrom('conforming', 'nonconforming', 'neither'),
        followUpPlanId: fc.constant(null),
      }),
      { maxLength: 3 },
    ),
    faultCodes: fc.constantFrom([], ['SCR', 'DENT']),
    countUnit: fc.option(text, { nil: null }),
    noteType: fc.constantFrom(null, 'date', 'yesNo'),
    gaugeKind: fc.option(text, { nil: null }),
    minutesPerPiece: fc.constantFrom(null, 0.5, 12),
    responsible: fc.option(text, { nil: null }),
    adviceOnFailure: text,
    isAdaptable: fc.boolean(),
    documentIds: fc.constant([]),
  }),
})

const key = fc.tuple(fc.constantFrom('gate ü.png', 'a; b#c.glb', 'x'), fc.constantFrom('0123456789ab', 'ffffffffffff')).map((both) => both.join('#'))
/** As many follow-up plans as there are answers. */
const linked = fields.chain((fields) =>
  fc.record({
    of: fc.constant(fields),
    links: fc.record<CharacteristicLinks>({
      followUps: fc.array(fc.constantFrom(null, 'G-1', 'G Two/3'), {
        minLength: fields.details.answers.length,
        maxLength: fields.details.answers.length,
      }),
      answerList: fc.constantFrom(null, 'FINISH'),
      documents: fc.array(key, { maxLength: 3 }),
    }),
  }),
)

describe('the forms of a characteristic in files', () => {
  it('as a table row give back what went in, for any characteristic: export then import is the identity', () => {
    fc.assert(
      fc.property(linked, ({ of: fields, links }) => {
        expect(fieldsOfRow(rowOf('C-1', fields, links))).toEqual({ fields: fields, links })
      }),
    )
  })

  it('as JSON give back what went in too', () => {
    fc.assert(
      fc.property(linked, ({ of: fields, links }) => {
        expect(fromFileForm(fileForm('C-1', fields, links))).toEqual({ code: 'C-1', fields: fields, links })
      }),
    )
  })

  it('say what a cell of documents looks like', () => {
    const seen = fieldsOfRow({ code: 'C', name: 'n', documents: 'gate.png' })
    expect('problems' in seen && seen.problems).toEqual([{ column: 'documents', message: expect.stringContaining('gate.png#3f9ac04be112') }])
  })

  it('names the cell that cannot be read, and what helps', () => {
    const seen = fieldsOfRow({ code: 'C', kind: 'weighed', band: 'about 3', answers: 'yes', minutesPerPiece: 'few', isAdaptable: 'perhaps' })
    expect('problems' in seen && seen.problems.map((problem) => problem.column)).toEqual([
      'name',
      'kind',
      'band',
      'answers',
      'minutesPerPiece',
      'isAdaptable',
    ])
  })
})

it('a characteristic without details is read as one that says nothing more', () => {
  expect(fieldsOfRow({ code: 'C', name: 'n' })).toMatchObject({ fields: { kind: 'measured', class: 'major', details: noDetails } })
})
