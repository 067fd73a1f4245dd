import { fieldsOfRow, noDetails, type Characteristic, type CharacteristicFields, type Plan, type PlanLine } from '@nemawashi/contract'
import { characteristicKinds, type SamplingChoice } from '@nemawashi/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { acceptsWords, releaseWords, revisionWords } from './characteristicWords'
import { roundEnd } from '../../workers/roundEnd'
import { exampleCsv, exampleRows } from './importExample'
import { columnsInUse, guessColumns, mended, problemsIn, rowsOf } from './importTable'
import { effortWords, inputOf, linesWords, newLine, planWords } from '../plans/planWords'
import { packRules, unpackRules } from '../sampling/rulesInAddress'
import { frequencyKinds, ruleKinds } from '../sampling/samplingKinds'

const fields: CharacteristicFields = {
  name: 'Gate gap',
  kind: 'measured',
  class: 'major',
  method: 'feeler',
  instruction: '',
  nominal: '0.3',
  lower: '0.25',
  upper: '0.35',
  unit: 'mm',
  resolution: '0.01',
  acceptableState: null,
  details: noDetails,
}
const line = (change: Partial<PlanLine> = {}): PlanLine => ({
  characteristicId: 'c',
  code: 'C-GAP',
  name: 'Gate gap',
  kind: 'measured',
  class: 'major',
  unit: 'mm',
  nominal: '0.3',
  lower: '0.25',
  upper: '0.35',
  followsRevision: 1,
  minutesPerPiece: 2,
  isAdaptable: true,
  sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 },
  isRequired: true,
  isDecisive: false,
  detached: null,
  stage: '',
  instruction: '',
  targets: [],
  ...change,
})

describe('the rules of the workshop in an address', () => {
  const choice = fc.record({
    sampling: fc.constantFrom(...Object.values(ruleKinds).map((kind) => kind.start)),
    frequency: fc.constantFrom(...Object.values(frequencyKinds).map((kind) => kind.start)),
  }) as unknown as fc.Arbitrary<SamplingChoice>

  it('come back as they were, up to four of them', () => {
    fc.assert(
      fc.property(fc.array(choice, { minLength: 1, maxLength: 4 }), (choices) => {
        expect(unpackRules(packRules(choices))).toEqual(choices)
      }),
    )
  })

  it('are nothing at all where they cannot be read, and what is no rule is left out', () => {
    fc.assert(fc.property(fc.oneof(fc.string(), fc.anything(), fc.json()), (text) => void unpackRules(text)))
    for (const text of [null, 7, '', '{', '{}', '[]', '[null]', '[{"sampling":{"kind":"guess"},"frequency":{"kind":"everyArrival"}}]'])
      expect(unpackRules(text)).toBeNull()
    const good = { sampling: { kind: 'everyPiece', accept: 0 }, frequency: { kind: 'everyArrival' } }
    expect(unpackRules(JSON.stringify([{ sampling: 1 }, good]))).toEqual([good])
  })
})

describe('the columns of a table from elsewhere', () => {
  it('are matched by the words that such tables use, each once', () => {
    expect(guessColumns(['No.', 'Description', 'LSL', 'Target', 'USL', 'U.o.M.', 'Gage', 'Colour', '', 'Lower limit'])).toEqual([
      'code',
      'name',
      'lower',
      'nominal',
      'upper',
      'unit',
      'gaugeKind',
      null,
      null,
      null,
    ])
  })

  it('show what is wrong by place; a formula or merged cell of the file is mended by writing the cell anew', () => {
    const problem = (row: number, column: number, isError = true) => ({ row, column, message: `at ${row} ${column}`, isError })
    const table = {
      columns: ['code', 'upper'],
      rows: [
        ['C-1', ''],
        ['C-2', '4'],
      ],
      problems: [problem(1, 1), problem(2, 1), problem(2, 0, false)],
      carried: [],
    }
    const check = {
      created: 0,
      revised: 0,
      unchanged: 0,
      more: 0,
      missing: [],
      problems: [{ row: 2, column: 'unit' as const, message: 'is missing' }],
    }
    expect(problemsIn(table, check, ['code', 'upper']).map(({ row, column, message }) => [row, column, message])).toEqual([
      [1, 1, 'at 1 1'],
      [2, 1, 'at 2 1'],
      [2, 0, 'unit: is missing'],
    ])
    expect(columnsInUse({ ...table, columns: ['code', 'upper', 'empty'] }, [])).toEqual([0, 1])
    expect(columnsInUse({ columns: ['code', 'empty'], rows: [['C-1', '']] }, [{ row: 1, column: 1, message: 'needed' }])).toEqual([0, 1])
    const after = mended(table, 0, 1, '3')
    expect(after.rows).toEqual([
      ['C-1', '3'],
      ['C-2', '4'],
    ])
    expect(problemsIn(after, null, ['code', 'upper'])).toMatchObject([{ row: 2, column: 1 }])
    expect(table.rows[0]).toEqual(['C-1', ''])
  })

  it('become rows of the library; empty cells and columns without a match say nothing', () => {
    const rows = [
      ['C-1', '', 'red'],
      ['C-2', 'Wall', 'blue'],
    ]
    expect(rowsOf({ rows }, ['code', 'name', null])).toEqual([{ code: 'C-1' }, { code: 'C-2', name: 'Wall' }])
  })
})

it('the example of an import is understood whole, one of each kind', () => {
  const read = exampleRows.map((row) => fieldsOfRow(row))
  expect(read.map((each) => ('problems' in each ? each.problems : []))).toEqual(exampleRows.map(() => []))
  expect(new Set(exampleRows.map(({ kind }) => kind))).toEqual(new Set(characteristicKinds))
  const [head = '', ...rows] = exampleCsv().split('\r\n')
  expect(guessColumns(head.split(','))).not.toContain(null)
  expect(rows).toHaveLength(exampleRows.length)
  expect(rows[4]).toContain('"PORE, SHUT"')
  expect(read[4]).toMatchObject({ fields: { details: { faultCodes: ['PORE', 'SHUT'] } } })
})

describe('the words of a characteristic', () => {
  it('say what is accepted, whatever its kind', () => {
    const answers = [{ code: 'E', words: 'even', verdict: 'conforming' as const, followUpPlanId: null }]
    expect(acceptsWords(fields)).toBe('0.25 to 0.35 mm')
    expect(acceptsWords({ ...fields, kind: 'judged', acceptableState: 'No burr' })).toBe('No burr')
    expect(acceptsWords({ ...fields, kind: 'coded', details: { ...noDetails, answers } })).toBe('E even (conforming)')
    expect(acceptsWords({ ...fields, kind: 'counted', details: { ...noDetails, countUnit: 'marks a body' } })).toBe('marks a body')
    expect(acceptsWords({ ...fields, kind: 'noted', details: { ...noDetails, noteType: 'date' } })).toBe('a day')
  })

  it('are the same for the same, and differ where two revisions do', () => {
    const other = { ...fields, upper: '0.38', details: { ...noDetails, rounding: '0.1' } }
    const differing = revisionWords(other).filter(({ words }, i) => words !== revisionWords(fields)[i]?.words)
    expect(differing).toEqual([
      { label: 'Upper limit', words: '0.38' },
      { label: 'Rounded before comparison', words: 'to 0.1' },
    ])
  })

  it('say before a release which plans follow, which are detached, and how many parts keep limits of their own', () => {
    const use = (planCode: string, detached: object | null, targets = 0) => ({ planCode, detached, targets })
    const own = { nominal: null, lower: '1', upper: '2', fromRevision: 1 }
    const release = (...lines: object[]) => releaseWords({ uses: { lines } } as unknown as Characteristic)
    expect(release()).toBe('No plan follows this.')
    expect(release(use('A', null), use('B', null, 2))).toBe(
      '2 plans follow this and will ask for the new revision: A, B. 2 parts keep limits of their own.',
    )
    expect(release(use('A', null), use('D', own, 1))).toBe(
      '1 plan follows this and will ask for the new revision: A. 1 plan is detached and keeps its own limits: D (1 to 2). One part keeps limits of its own.',
    )
  })
})

describe('the words of a plan', () => {
  it('tell the work of a lot over all lines, and which lines have no time', () => {
    expect(effortWords([line()], 500)).toBe('A lot of 500 takes 5 readings at most, 10 minutes.')
    const square = line({ sampling: { kind: 'squareRoot', accept: 0 }, minutesPerPiece: null })
    expect(effortWords([line(), square], 500)).toBe('A lot of 500 takes 29 readings at most, 10 minutes; 1 line without a time.')
    expect(effortWords([line({ minutesPerPiece: 60 })], 500)).toBe('A lot of 500 takes 5 readings at most, 5.0 hours.')
    expect(effortWords([line({ sampling: { kind: 'fixedNumber', sampleSize: 0, accept: 0 } })], 500)).toContain('1 line without a time')
  })

  it('lay every difference of a line open', () => {
    const detached = { nominal: null, lower: '0.2', upper: '0.4', fromRevision: 1 }
    const targets = [{ partId: 'p', partCode: 'SD-26', nominal: null, lower: '1', upper: '2' }]
    const full = line({ isRequired: false, isDecisive: true, detached, targets, stage: 'dry', instruction: 'slowly' })
    const [only] = planWords({ lines: [full] } as unknown as Plan['revisions'][number])
    expect(only).toEqual({
      label: 'C-GAP',
      words: 'line 1, 5 pieces, Ac 0, not required, decisive, own limits 0.2 to 0.4 mm, SD-26 1 to 2 mm, dry, slowly',
    })
    expect(linesWords([full])).toBe('C-GAP (5 pieces, Ac 0)')
    expect(linesWords(undefined)).toBe('')
  })

  it('are sent without what the library says, and with nothing for an emptied limit', () => {
    const sent = inputOf(line({ detached: { nominal: '', lower: '0.2', upper: '', fromRevision: 1 } }))
    expect(sent.detached).toEqual({ nominal: null, lower: '0.2', upper: null, fromRevision: 1 })
    expect(Object.keys(sent)).not.toContain('followsRevision')
    expect(inputOf(line({ targets: [{ partId: 'p', partCode: 'P', nominal: '', lower: '1', upper: '2' }] })).targets).toEqual([
      { partId: 'p', nominal: null, lower: '1', upper: '2' },
    ])
  })

  it('begin a line from the released revision, else from the newest', () => {
    const revision = (state: string, number: number, kind = 'measured') => ({ ...fields, id: state, kind, state, revision: number })
    const line = (...revisions: object[]) => newLine('c', 'C-GAP', revisions as never)
    expect(line(revision('draft', 2), revision('released', 1))).toMatchObject({ followsRevision: 1, sampling: { kind: 'attributesScheme' } })
    expect(line(revision('draft', 1))).toMatchObject({ followsRevision: null })
    expect(line(revision('released', 1, 'noted'))).toMatchObject({ sampling: { kind: 'fixedNumber', sampleSize: 1 } })
    expect(line()).toBeNull()
  })
})

it('a chart ends at a round figure that shows what has to be in sight', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 100, noNaN: true }), (percent) => {
      const end = roundEnd(percent)
      return end >= percent && (end <= 0.1 || end <= 2.5 * percent)
    }),
  )
})
