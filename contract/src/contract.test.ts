import { describe, expect, expectTypeOf, it } from 'vitest'
import { z } from 'zod'
import './wire/plainWords'
import { fieldsOfRow } from './define/characteristicTable'
import { endpoint, ListQuery } from './wire/endpoint'
import { allEndpoints, endpoints } from './endpoints'
import { openApiDocument } from './openapi'
import { unseenIn } from './wire/unseen'
import { addressOf, type CallOf, type ReplyOf } from './wire/request'

const { define, run, record } = endpoints
const id = '01900000-0000-7000-8000-000000000000'

describe('an address', () => {
  it('has its parameters filled in and escaped, and only the query that was given', () => {
    expect(addressOf(define.getPlan, { params: { id } })).toBe(`/api/v1/plans/${id}`)
    expect(addressOf(define.getPlan, { params: { id: '../people' } })).toBe('/api/v1/plans/..%2Fpeople')
    expect(addressOf(run.listDeliveries, { query: { q: 'a b', sort: undefined, after: '' } })).toBe('/api/v1/deliveries?q=a+b')
    expect(addressOf(run.listDeliveries, { query: { q: 'x' } }, '.csv')).toBe('/api/v1/deliveries.csv?q=x')
  })
})

describe('what crosses the wire', () => {
  it('is refused when it holds something that nobody asked for', () => {
    expect(define.releasePlan.body.safeParse({ version: 1 }).success).toBe(true)
    expect(define.releasePlan.body.safeParse({ version: 1, state: 'released' }).success).toBe(false)
    expect(ListQuery.safeParse({ limit: '50' }).data).toEqual({ limit: 50 })
    expect(ListQuery.safeParse({ limit: '5000' }).success).toBe(false)
  })

  it('holds a sampling rule of one of the four kinds and none in between', () => {
    const line = (sampling: unknown) =>
      define.createPlan.body.safeParse({ code: 'P', name: 'P', lines: [{ characteristicId: id, sampling, isRequired: true, isDecisive: false }] })
        .success
    expect(line({ kind: 'everyPiece', accept: 0 })).toBe(true)
    expect(line({ kind: 'percentage', percent: 10, rounding: 'up', accept: 0 })).toBe(true)
    expect(line({ kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 })).toBe(true)
    expect(line({ kind: 'attributesScheme', level: 'IV', aqlPercent: 0.65 })).toBe(false)
    expect(line({ kind: 'fixedNumber', accept: 0 })).toBe(false)
    expect(line({ kind: 'everyPiece', accept: 0, sampleSize: 5 })).toBe(false)
  })

  it('keeps codes to what can be read aloud and written on a label', () => {
    const code = (text: string) => define.createPlan.body.safeParse({ code: text, name: 'P', lines: [] }).success
    expect(['RP-01', 'Läuferstift 6', 'A.1/2_b'].every(code)).toBe(true)
    expect(['', ' ', '<b>', '-1', 'a\nb', 'x'.repeat(41)].some(code)).toBe(false)
  })

  it('takes readings in batches of at most 200, each with an id and an instant', () => {
    const reading = { id, lineId: id, piece: 1, value: '0.3', typedAt: '2026-03-01T08:00:00Z', isConfirmedOutside: false, corrects: null }
    const body = (readings: unknown[]) => record.recordReadings.body.safeParse({ readings }).success
    expect(body([reading])).toBe(true)
    expect(body([])).toBe(false)
    expect(body(Array(201).fill(reading))).toBe(false)
    expect(body([{ ...reading, typedAt: 'this morning' }])).toBe(false)
    expect(body([{ ...reading, value: 0.3 }])).toBe(false)
  })

  it('gives callers the types of its schemas', () => {
    expectTypeOf<CallOf<typeof define.getPlan>['params']>().toEqualTypeOf<{ id: string }>()
    expectTypeOf<CallOf<typeof endpoints.contain.decide>['body']['version']>().toEqualTypeOf<number>()
    expectTypeOf<ReplyOf<typeof run.listDeliveries>['total']>().toEqualTypeOf<number>()
  })
})

describe('what a schema refuses', () => {
  const words = (schema: z.ZodType, value: unknown) => schema.safeParse(value).error?.issues[0]?.message
  it.each([
    [z.string(), undefined, 'fill this in'],
    [z.string(), 5, 'give text here'],
    [z.number(), 'x', 'give a number here'],
    [z.string().min(1), '', 'fill this in'],
    [z.string().max(3), 'long', 'write at most 3 characters'],
    [z.number().min(2), 1, 'give at least 2'],
    [z.array(z.string()).max(1), ['a', 'b'], 'give at most 1'],
    [z.enum(['a', 'b']), 'c', 'choose one of: a, b'],
    [z.uuid(), 'x', 'choose one from the list'],
    [z.iso.date(), 'x', 'give a day'],
    [z.strictObject({}), { odd: 1 }, 'nothing is known here of: odd'],
    [z.number().multipleOf(1), 0.5, 'give a whole number'],
    [z.union([z.string(), z.number()]), true, 'this is not understood here'],
  ])('is said in words that a person can act on (%#)', (schema, value, expected) => expect(words(schema, value)).toBe(expected))
})

describe('characters that nobody sees', () => {
  it('are found wherever they stand, with the place; what is seen, line ends and other scripts are let through', () => {
    const rlo = '\u202e'
    expect(unseenIn({ name: `gpj.${rlo}exe` })).toEqual({ path: ['name'], character: 'U+202E' })
    expect(unseenIn({ rows: [{ words: 'good' }, { words: 'a\u0000b' }] })).toEqual({ path: ['rows', 1, 'words'], character: 'U+0000' })
    expect(unseenIn({ ['odd\u0007']: 1 })).toMatchObject({ character: 'U+0007' })
    expect(unseenIn('half \ud83d of a pair')).toMatchObject({ character: 'U+D83D' })
    expect(unseenIn({ words: 'Ø 8 ± 0,1\n\tstrøm, 検査, عربي, 🙂', count: 5, none: null, list: [true] })).toBeNull()
  })
})

describe('every endpoint', () => {
  it('has one parameter in an address at most, the id of the thing: whatever walks over the API fills that in', () => {
    for (const { endpoint: entry } of allEndpoints())
      expect([undefined, ':id'], entry.path).toContain(entry.path.match(/:.*/)?.[0].replace(/\/.*/, ''))
    expect(allEndpoints().filter(({ endpoint: entry }) => (entry.path.match(/:/g) ?? []).length > 1)).toEqual([])
  })

  it('says in words what it does and who may call it', () => {
    for (const { endpoint: entry } of allEndpoints()) {
      expect(entry.summary.length, entry.path).toBeGreaterThan(5)
      expect(entry.path).toMatch(/^\/api\/v1\/[a-z-]+/)
      if (typeof entry.access !== 'string') expect(entry.access.length).toBeGreaterThan(0)
    }
  })

  it('that changes something is closed to people without a role, but for signing in, what somebody does with what is theirs, and what an instrument shows its key for', () => {
    const open = allEndpoints().filter(({ endpoint: entry }) => entry.method !== 'GET' && typeof entry.access === 'string')
    expect(open.map(({ name }) => name).sort()).toEqual([
      'beginSecondFactor',
      'changePassword',
      'confirmSecondFactor',
      'createFirstAdministrator',
      'endSecondFactor',
      'endSession',
      'markNotificationRead',
      'sendValues',
      'signIn',
      'signOut',
    ])
  })

  it('without an access statement does not compile', () => {
    // @ts-expect-error access is missing
    endpoint('GET', '/api/v1/open', { summary: 'no access', reply: z.strictObject({}) })
  })
})

describe('the OpenAPI document', () => {
  const document = openApiDocument('1.2.3') as {
    info: { version: string }
    paths: Record<
      string,
      Record<
        string,
        {
          parameters: { name: string; in: string; required: boolean }[]
          requestBody?: unknown
          responses: Record<string, { description: string; content: Record<string, unknown> }>
          description: string
        }
      >
    >
    components: { schemas: { Error: { properties: { error: { properties: { code: { enum: string[] } } } } } } }
  }

  it('describes parameters, bodies, files and who may call', () => {
    const decide = document.paths['/api/v1/inspections/{id}/decision']?.['post']
    expect(decide?.description).toBe('For: quality manager, inspector.')
    expect(decide?.parameters.map((parameter) => [parameter.name, parameter.in, parameter.required])).toEqual([
      ['id', 'path', true],
      ['Idempotency-Key', 'header', false],
    ])
    expect(decide?.requestBody).toBeTruthy()
    expect(Object.keys(document.paths['/api/v1/inspections/{id}/report.pdf']?.['get']?.responses['200']?.content ?? {})).toEqual(['application/pdf'])
    expect(document.paths['/api/v1/lots']?.['get']?.requestBody).toBeUndefined()
    expect(document.info.version).toBe('1.2.3')
  })

  it('says of each address with which codes it refuses, by status', () => {
    const refusals = (path: string, method: string) =>
      Object.entries(document.paths[path]?.[method]?.responses ?? {}).flatMap(([status, { description }]) =>
        [...description.matchAll(/`(\w+)`/g)].map(([, code]) => `${status} ${code}`),
      )
    expect(refusals('/api/v1/lots', 'get')).toEqual([
      '400 input_invalid',
      '401 signed_out',
      '403 password_first',
      '403 second_factor_first',
      '500 internal',
    ])
    expect(refusals('/api/v1/lots/{id}/put-away', 'post')).toEqual(
      expect.arrayContaining(['409 gate_closed', '403 role_missing', '404 not_found', '503 storage_failed']),
    )
  })

  it('lists every error code', () => {
    expect(document.components.schemas.Error.properties.error.properties.code.enum).toEqual(
      expect.arrayContaining(['gate_closed', 'limits_reversed', 'stale_version']),
    )
  })
})

describe('texts of files', () => {
  it('are read in a time that grows with their length and no faster, whatever stands in them', () => {
    const nasty = [
      ' '.repeat(10_000),
      `A ${' '.repeat(9_990)}`,
      `A ${'='.repeat(9_990)}`,
      `A x = conforming${','.repeat(9_900)}`,
      'a '.repeat(5_000),
      `A${'\\'.repeat(9_990)}`,
      `A x ${'then '.repeat(1_900)}`,
    ]
    const row = (column: string, text: string) => ({ code: 'C', name: 'N', kind: 'coded', [column]: text })
    const began = performance.now()
    for (const text of nasty)
      for (const column of ['answers', 'band', 'tolerance', 'faultCodes', 'unit', 'resolution', 'name']) fieldsOfRow(row(column, text) as never)
    // 49 texts of 10,000 characters; a pattern that goes astray takes seconds for one of them.
    expect(performance.now() - began).toBeLessThan(2000)
    expect(fieldsOfRow(row('answers', String.raw`E even = conforming; M matt \= grey = nonconforming, then PL-1`) as never)).not.toHaveProperty(
      'problems',
    )
  })
})
