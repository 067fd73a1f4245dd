import fc from 'fast-check'
import type { ListPage, ListQuery } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Database } from '../work/database'
import { testDatabase } from '../../testing/database'
import { listCsv, listPage, type ListSpec } from './lists'

interface Row {
  id: string
  name: string
  size: number
  maybe: string | null
  due?: string | null
  isBig: boolean
  tags: string[]
}
const spec: ListSpec = {
  from: 'sample t',
  id: 't.id',
  columns: {
    id: { sql: 't.id' },
    name: { sql: 't.name' },
    size: { sql: 't.size', kind: 'number' },
    maybe: { sql: 't.maybe', isNullable: true },
    isBig: { sql: 't.size > 50', kind: 'flag' },
    tags: { sql: `'["a"]'`, kind: 'json' },
  },
  search: ['t.name', 't.maybe'],
  sort: ['name', 'asc'],
}
let database: Database
let remove: () => Promise<void>
beforeAll(async () => {
  ;({ database, remove } = await testDatabase())
  await database.writer.query('CREATE TABLE sample (id TEXT PRIMARY KEY, name TEXT, size INTEGER, maybe TEXT)')
  for (let i = 0; i < 90; i++) {
    await database.writer.query('INSERT INTO sample VALUES (?, ?, ?, ?)', [
      `id${i}`,
      ['=SUM(A1)', '-twist', 'ring 100%', 'o_ring', 'ümlaut'][i % 5],
      i % 7,
      i % 3 === 0 ? null : `m${i % 4}`,
    ])
  }
})
afterAll(() => remove())
const page = (query: ListQuery, list = spec): Promise<ListPage<Row>> => listPage(database.reader, list, query)
async function everything(query: ListQuery, list = spec): Promise<Row[]> {
  const rows: Row[] = []
  for (let after: string | undefined; ;) {
    const found = await page({ ...query, ...(after ? { after } : {}) }, list)
    rows.push(...found.rows)
    if (found.next === null) return rows
    after = found.next
  }
}

describe('a list of the server', () => {
  it('is counted and sorted in its own table where it says which, and comes out the same whatever is asked', async () => {
    await database.writer.query('CREATE TABLE kindof (size INTEGER PRIMARY KEY, name TEXT)')
    for (let i = 0; i < 7; i++) await database.writer.query('INSERT INTO kindof VALUES (?, ?)', [i, ['small', 'large'][i % 2]])
    const asked: string[] = []
    const listening = { query: (sql: string, values: unknown[]) => (asked.push(sql), database.reader.query(sql, values)) }
    const joined: ListSpec = { ...spec, from: 'sample t JOIN kindof k ON k.size = t.size', columns: { ...spec.columns, kind: { sql: 'k.name' } } }
    const near: ListSpec = {
      ...joined,
      countFrom: 'sample t',
      searchAlso: [`t.size IN (SELECT x.size FROM kindof x WHERE x.name LIKE ? ESCAPE '\\')`],
    }
    const far: ListSpec = { ...joined, search: [...joined.search, 'k.name'] }
    const found: ListSpec = {
      ...near,
      search: [],
      searchAlso: [],
      findIds: ['t.name', 't.maybe', 'k.name'].map((column) => `SELECT t.id FROM ${joined.from} WHERE ${column} LIKE ? ESCAPE '\\'`),
    }
    const whole: ListSpec = { ...near, key: 't.id, t.name' }
    for (const query of [
      {},
      { q: 'large' },
      { q: 'ring small' },
      { q: '100%' },
      { sort: 'kind' },
      { sort: 'size', dir: 'desc' as const, limit: 13 },
    ]) {
      const wanted = await everything(query, far)
      for (const list of [near, found, whole]) expect(await everything(query, list)).toEqual(wanted)
      expect((await listPage(listening, near, query)).total).toBe(wanted.length)
    }
    // The rows of a page are fetched with what they show; before that only sorting by what is joined asks for it.
    const joins = asked.filter((sql) => /^SELECT (COUNT|t\.id, )/.test(sql) && sql.includes('JOIN kindof k'))
    expect(joins).toEqual([expect.stringContaining('ORDER BY k.name')])
  })

  it('goes on after rows that were gone before they were fetched', async () => {
    const forgetful = { query: async (sql: string, values: unknown[]) => (/ IN \(\?/.test(sql) ? [] : database.reader.query(sql, values)) }
    const first = await listPage(forgetful, spec, { limit: 10 })
    expect([first.rows, first.total]).toEqual([[], 90])
    const second = await page({ limit: 10, after: first.next ?? '' })
    expect(second.rows).toEqual((await everything({})).slice(10, 20))
  })

  it('has days that are missing after all others, on every page', async () => {
    const due = { sql: `CASE WHEN t.maybe IS NOT NULL THEN '2026-03-0' || (t.size + 1) END`, isNullable: true, isMissingLast: true }
    const rows = await everything({ sort: 'due', dir: 'asc', limit: 7 }, { ...spec, columns: { ...spec.columns, due } })
    const days = rows.map(({ due }) => due ?? 'none')
    expect(days).toEqual([...days].sort())
    expect([days.length, days.indexOf('none'), new Set(rows.map(({ id }) => id)).size]).toEqual([90, 60, 90])
  })

  it('gives every row exactly once, sorted, for any sorting and any size of the page', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom('id', 'name', 'size', 'maybe', 'isBig'),
        fc.constantFrom('asc', 'desc'),
        fc.integer({ min: 1, max: 100 }),
        async (sort, dir, limit) => {
          const rows = await everything({ sort, dir, limit })
          expect(rows).toHaveLength(90)
          expect((await page({ sort, dir, limit })).rows).toEqual(rows.slice(0, limit))
          expect(new Set(rows.map((row) => row.id)).size).toBe(90)
          const values = rows.map((row) => (sort === 'size' ? row.size : sort === 'isBig' ? Number(row.isBig) : String(row[sort as 'name'] ?? '')))
          for (let i = 1; i < values.length; i++) {
            const [before, after] = dir === 'asc' ? [values[i - 1], values[i]] : [values[i], values[i - 1]]
            expect(
              Buffer.compare(Buffer.from(String(before).padStart(12)), Buffer.from(String(after).padStart(12))) <= 0 ||
                (before as number) <= (after as number),
            ).toBe(true)
          }
        },
      ),
      { numRuns: 40 },
    )
  })

  it('reads flags and JSON, and shows no column that it needs for itself', async () => {
    const [row] = (await page({ limit: 1 })).rows
    expect(Object.keys(row ?? {}).sort()).toEqual(['id', 'isBig', 'maybe', 'name', 'size', 'tags'])
    expect(row).toMatchObject({ isBig: false, tags: ['a'] })
  })

  it('finds all words, in any order, and takes % and _ as they are written', async () => {
    expect((await page({ q: '100% ring' })).total).toBe(18)
    expect((await page({ q: '%' })).total).toBe(18)
    expect((await page({ q: 'o_r' })).total).toBe(18)
    expect((await page({ q: 'ring m1' })).rows.every((row) => row.name.includes('ring') && row.maybe === 'm1')).toBe(true)
    expect((await page({ q: 'nothing here' })).rows).toEqual([])
  })

  it('refuses a sort or a key that it did not give', async () => {
    await expect(page({ sort: 'password' })).rejects.toMatchObject({ code: 'input_invalid', facts: { allowed: Object.keys(spec.columns) } })
    for (const after of ['x', Buffer.from('[1]').toString('base64url'), Buffer.from('[{},"a"]').toString('base64url')]) {
      await expect(page({ after })).rejects.toMatchObject({ code: 'input_invalid', facts: { field: 'after' } })
    }
  })

  it('goes out as CSV whole, readable by spreadsheets, with formulas defused', async () => {
    let text = ''
    for await (const chunk of listCsv(database.reader, spec, { sort: 'id' })) text += chunk
    expect(text.startsWith('\uFEFFid,name,size,maybe,isBig,tags\r\n')).toBe(true)
    const lines = text.trim().split('\r\n')
    expect(lines).toHaveLength(91)
    expect(lines.filter((line) => line.includes(`"'=SUM(A1)"`))).toHaveLength(18)
    expect(lines.filter((line) => line.includes(`"'-twist"`))).toHaveLength(18)
  })
})
