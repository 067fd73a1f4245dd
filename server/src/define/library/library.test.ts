import { endpoints, noDetails, tableColumns, type FileDocument, type LibraryFile, type TableRow } from '@nemawashi/contract'
import { createHash } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gap, refusal, startPlant, stock, type Plant } from '../../testing/plant'
import { rowOf, workbookOf } from '../../testing/workbookOf'

const { define, people } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

const base64 = (content: string | Buffer) => Buffer.from(content).toString('base64')
const read = (content: string | Buffer, name = 'table.csv') => goods.engineer.call(define.readTable, { body: { name, content: base64(content) } })
const check = (rows: TableRow[]) => goods.engineer.call(define.checkImport, { body: { rows, carried: [] } })
const rowsOf = ({ columns, rows }: { columns: string[]; rows: string[][] }) =>
  rows.map(
    (row) =>
      Object.fromEntries(
        columns.flatMap((column, i) => (row[i] === '' || !(tableColumns as readonly string[]).includes(column) ? [] : [[column, row[i]]])),
      ) as TableRow,
  )
const take = (rows: TableRow[]) => goods.engineer.call(define.importCharacteristics, { body: { rows, documents: [] } })
const count = async () => (await goods.engineer.call(define.listCharacteristics, { query: { limit: 1 } })).total
const bore: TableRow = { code: 'IMP-1', name: 'Bore', tolerance: '25 H7', unit: 'mm', resolution: '0.001' }
const download = async (format: string) =>
  Buffer.from(
    await (await fetch(`${plant.base}/api/v1/library/export?format=${format}`, { headers: { cookie: goods.engineer.cookies } })).arrayBuffer(),
  )

describe('a file that is read', () => {
  it('may be CSV with commas, semicolons or tabs, quotes and a byte order mark', async () => {
    for (const mark of [',', ';', '\t']) {
      const seen = await read(`\uFEFFcode${mark}name\r\nC-1${mark}"A ""fine"" one${mark} twice"\r\n\r\n`)
      expect(seen).toMatchObject({ columns: ['code', 'name'], rows: [['C-1', `A "fine" one${mark} twice`]], problems: [] })
    }
  })

  it.each([
    ['', /empty/],
    [Buffer.from([0x63, 0x6f, 0xe4, 0x0a, 0x31]), /not in UTF-8/],
    ['code,code\n1,2\n', /stands twice/],
    [',,\n1,2,3\n', /no column heads/],
    [Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1]), /old XLS format/],
    [Buffer.from('PK\u0003\u0004broken'), /cannot be opened/],
    ['{"format": 1}', /does not follow the schema/],
    ['{ not json', /begins like JSON/],
    [`code\n${'x\n'.repeat(100_000)}`, /has 100000 rows, an import takes 20000/],
  ])('is refused when it is %.20j', async (content, message) => {
    expect((await refusal(read(content)))?.message).toMatch(message)
  })

  it('of a workbook names formula cells and merged cells by place', async () => {
    const rows = [['code', 'name', 'upper'], ['C-1', 'one', '<f>1+2</f><v>3</v>'], ['C-2', 'two', '<f>A1</f>'], [], ['C-3', 'three', 4.5]].map(
      (cells, i) => rowOf(i + 1, cells),
    )
    const wrong = '<row r="6"><c r="A6" t="inlineStr"><is><t>C-4</t></is></c><c r="B6" t="e"><v>#DIV/0!</v></c></row>'
    const seen = await read(workbookOf(rows.join('') + wrong, '<mergeCells count="1"><mergeCell ref="A5:A6"/></mergeCells>'), 'any.xlsx')
    expect(seen.rows).toEqual([
      ['C-1', 'one', '3'],
      ['C-2', 'two', ''],
      ['C-3', 'three', '4.5'],
      ['C-4', '', ''],
    ])
    expect(seen.problems.map(({ row, column, isError }) => ({ row, column, isError }))).toEqual(
      expect.arrayContaining([
        { row: 1, column: 2, isError: false },
        { row: 2, column: 2, isError: true },
        { row: 3, column: 0, isError: true },
        { row: 4, column: 0, isError: true },
        { row: 4, column: 1, isError: true },
      ]),
    )
  })

  it('tells a row with too many cells', async () => {
    expect((await read('code,name\nC-1,a,b\n')).problems[0]).toMatchObject({ row: 1, isError: true })
  })
})

describe('an import', () => {
  it('shows its errors by row and cell, and writes nothing until all are mended', async () => {
    const before = await count()
    const rows = [
      bore,
      { code: 'IMP-2', name: 'Half', tolerance: '12 +0.1 about', unit: 'mm', resolution: '0.1' },
      { ...bore, name: 'again' },
      { code: 'IMP-3', name: 'No unit', tolerance: '≤ 3', resolution: '1' },
    ]
    const seen = await check(rows)
    expect(seen.problems.map(({ row, column }) => [row, column])).toEqual([
      [2, 'tolerance'],
      [3, 'code'],
      [4, 'unit'],
    ])
    expect(seen.problems[0]?.message).toMatch(/at "about"/)
    expect(await refusal(take(rows))).toMatchObject({ status: 422, code: 'import_has_errors' })
    expect(await count()).toBe(before)
  })

  it('makes drafts with the limits of the typed tolerance, finds itself unchanged the second time, and is undone as a whole', async () => {
    const before = await count()
    const rows = [bore, { code: 'IMP-4', name: 'Look', kind: 'coded', answers: 'E even = conforming; M matt = nonconforming' }]
    const { importId, ...done } = await take(rows)
    expect(done).toEqual({ created: 2, revised: 0, unchanged: 0 })
    const [made] = (await goods.engineer.call(define.listCharacteristics, { query: { q: 'IMP-1' } })).rows
    expect(made).toMatchObject({ lower: '25', upper: '25.021', state: 'draft' })
    expect(await check(rows)).toMatchObject({ created: 0, revised: 0, unchanged: 2, problems: [] })
    expect(await goods.engineer.call(define.undoImport, { params: { id: importId } })).toEqual({ removed: 2 })
    expect(await count()).toBe(before)
    expect(await plant.administrator.call(people.verifyAudit, {})).toMatchObject({ isWhole: true })
  })

  it('revises what is released and is not undone once something moved on', async () => {
    const { importId } = await take([{ ...bore, code: 'IMP-5' }])
    const [made] = (await goods.engineer.call(define.listCharacteristics, { query: { q: 'IMP-5' } })).rows
    await goods.engineer.call(define.releaseMany, { body: { characteristics: [{ id: made?.id ?? '', version: 1 }] } })
    expect(await refusal(goods.engineer.call(define.undoImport, { params: { id: importId } }))).toMatchObject({
      code: 'import_moved_on',
      facts: { moved: ['IMP-5'] },
    })
    const again = await take([{ ...bore, code: 'IMP-5', tolerance: '25 H8' }])
    expect(again).toMatchObject({ created: 0, revised: 1 })
    const loaded = await goods.engineer.call(define.getCharacteristic, { params: { id: made?.id ?? '' } })
    expect(loaded.revisions.map(({ revision, state, upper }) => [revision, state, upper])).toEqual([
      [2, 'draft', '25.033'],
      [1, 'released', '25.021'],
    ])
    await goods.engineer.call(define.undoImport, { params: { id: again.importId } })
    expect((await goods.engineer.call(define.getCharacteristic, { params: { id: made?.id ?? '' } })).revisions).toHaveLength(1)
  })

  it('of what was exported changes nothing, in all three formats', async () => {
    for (const format of ['csv', 'xlsx', 'json']) {
      const table = await read(await download(format), `all.${format}`)
      expect(table.problems, format).toEqual([])
      const { rows } = table
      const cells = rowsOf(table)
      expect(await check(cells), format).toMatchObject({ created: 0, revised: 0, unchanged: rows.length, problems: [], missing: [] })
    }
  })

  it('brings documents and follow-up plans to another plant, and says what is not there yet', async () => {
    const png = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
    const picture: FileDocument = { name: 'patches.png', mediaType: 'image/png', content: png }
    const shown = await goods.engineer.call(define.addDocument, { body: picture })
    const plan = await goods.plan('G-DETAIL', [{ characteristicId: goods.measured.id }])
    const verdicts = { E: 'conforming', M: 'nonconforming' } as const
    const answers = (['E', 'M'] as const).map((code) => ({
      code,
      words: code,
      verdict: verdicts[code],
      followUpPlanId: code === 'M' ? plan.id : null,
    }))
    const coded = { ...gap, kind: 'coded', nominal: null, lower: null, upper: null, unit: null, resolution: null } as const
    const body = { ...coded, code: 'LINKED', name: 'Finish', details: { ...noDetails, answers, documentIds: [shown.id] } }
    await goods.engineer.call(define.createCharacteristic, { body })
    expect((await download('csv')).toString()).toContain(`E E = conforming; M M = nonconforming, then G-DETAIL`)

    const file = await download('json&with=documents&q=LINKED')
    expect((JSON.parse(file.toString()) as LibraryFile).documents).toEqual([picture])
    const other = await startPlant()
    try {
      const { engineer, ...there } = await stock(other)
      const table = await engineer.call(define.readTable, { body: { name: 'l.json', content: base64(file) } })
      expect(table.carried).toEqual([`patches.png#${shown.hash.slice(0, 12)}`])
      const rows = rowsOf(table)
      const bare = await engineer.call(define.checkImport, { body: { rows, carried: [] } })
      expect(bare.missing.map(({ column }) => column)).toEqual(['answers', 'documents'])
      const seen = await engineer.call(define.checkImport, { body: { rows, carried: table.carried } })
      expect(seen).toMatchObject({ created: 1, problems: [], missing: [{ row: 1, column: 'answers', message: expect.stringContaining('G-DETAIL') }] })
      await engineer.call(define.importCharacteristics, { body: { rows, documents: [picture] } })
      const load = async () => {
        const [row] = (await engineer.call(define.listCharacteristics, { query: { q: 'LINKED' } })).rows
        const details = (await engineer.call(define.getCharacteristic, { params: { id: row?.id ?? '' } })).revisions[0]?.details
        return { follow: details?.answers.map(({ followUpPlanId }) => followUpPlanId), documents: details?.documentIds ?? [] }
      }
      const first = await load()
      expect(first.follow).toEqual([null, null])
      expect((await engineer.call(define.getDocument, { params: { id: first.documents[0] ?? '' } })).hash).toBe(shown.hash)
      const here = await there.plan('G-DETAIL', [{ characteristicId: there.measured.id }])
      const again = await engineer.call(define.importCharacteristics, { body: { rows, documents: [picture] } })
      expect(again).toMatchObject({ created: 0, revised: 1 })
      expect(await load()).toEqual({ follow: [null, here.id], documents: first.documents })
      expect(await engineer.call(define.checkImport, { body: { rows, carried: [] } })).toMatchObject({ unchanged: 1, missing: [] })
      const forged = { ...picture, content: base64('no picture') }
      const asked = [{ ...rows[0], documents: `forged.png#${createHash('sha256').update('no picture').digest('hex').slice(0, 12)}` }]
      expect((await refusal(engineer.call(define.importCharacteristics, { body: { rows: asked, documents: [forged] } })))?.code).toBe('input_invalid')
    } finally {
      await other.stop()
    }
  })

  it('takes no document away, shows no content twice, and lets answers that became others leave their list', async () => {
    const keep = (name: string, byte: number) =>
      goods.engineer.call(define.addDocument, {
        body: { name, mediaType: 'image/png', content: base64(Buffer.from([0x89, 0x50, 0x4e, 0x47, byte])) },
      })
    const [one, twin, two] = [await keep('one.png', 1), await keep('twin of one.png', 1), await keep('two.png', 2)]
    const answers = (['conforming', 'nonconforming'] as const).map((verdict) => ({
      code: verdict[0] ?? '',
      words: verdict,
      verdict,
      followUpPlanId: null,
    }))
    const list = (await goods.engineer.call(define.answerLists.create, {
      body: { code: 'LIST-1', name: 'Look', isActive: true, answers } as never,
    })) as { id: string }
    const coded = { ...gap, kind: 'coded', nominal: null, lower: null, upper: null, unit: null, resolution: null } as const
    const details = { ...noDetails, answerListId: list.id, answers, documentIds: [one.id, two.id] }
    const made = await goods.engineer.call(define.createCharacteristic, { body: { ...coded, code: 'KEPT', details } })
    const now = async () => (await goods.engineer.call(define.getCharacteristic, { params: { id: made.id } })).revisions[0]?.details
    const [row = {}] = rowsOf(await read(await download('json&q=KEPT'), 'kept.json'))
    expect(row).toMatchObject({ answerList: 'LIST-1', documents: `one.png#${one.hash.slice(0, 12)}; two.png#${two.hash.slice(0, 12)}` })
    expect(await check([row])).toMatchObject({ unchanged: 1, missing: [] })
    const twinKey = `twin of one.png#${twin.hash.slice(0, 12)}`
    expect(await check([{ ...row, documents: twinKey }])).toMatchObject({ unchanged: 1, missing: [] })
    const { answerList: _, ...without } = row
    await take([{ ...without, documents: twinKey, name: 'Renamed' }])
    expect(await now()).toMatchObject({ documentIds: [one.id, two.id], answerListId: list.id })
    await take([{ ...without, answers: 'E even = conforming; X other = nonconforming' }])
    expect(await now()).toMatchObject({ documentIds: [one.id, two.id], answerListId: null })
  })

  it('publishes the schema of its JSON', async () => {
    const schema = (await (await fetch(`${plant.base}/api/v1/library/schema`)).json()) as { properties: Record<string, unknown> }
    expect(Object.keys(schema.properties)).toEqual(['format', 'version', 'characteristics', 'documents'])
  })
})

describe('the library', () => {
  const search = async (query: object) => (await goods.engineer.call(define.listCharacteristics, { query })).rows.map(({ code }) => code)
  beforeAll(async () => {
    const plan = await goods.plan('SEARCHED', [{ characteristicId: goods.measured.id }])
    await goods.point(plan.id)
  })

  it('finds by code, name, unit, method, instruction and the words of answers and fault codes, whatever the case', async () => {
    await take([
      {
        code: 'SEEK-1',
        name: 'Anodised face',
        kind: 'coded',
        answers: 'E even = conforming; M mottled = nonconforming',
        instruction: 'Under the lamp',
      },
      { code: 'SEEK-2', name: 'Marks', kind: 'counted', countUnit: 'marks per panel', faultCodes: 'SCUFF', method: 'Loupe' },
    ])
    for (const [q, found] of [
      ['seek', ['SEEK-1', 'SEEK-2']],
      ['ANODISED', ['SEEK-1']],
      ['mottled', ['SEEK-1']],
      ['lamp under', ['SEEK-1']],
      ['scuff', ['SEEK-2']],
      ['loupe seek', ['SEEK-2']],
      ['per panel', ['SEEK-2']],
      ['100%_', []],
    ] as const)
      expect(await search({ q }), q).toEqual(found)
  })

  it('finds what is inspected on a part, and narrows by kind, state and family', async () => {
    expect(await search({ q: 'P-1' })).toEqual(['C-GAP'])
    expect(await search({ familyId: goods.family.id })).toEqual(['C-GAP'])
    expect(await search({ kind: 'judged' })).toEqual(['C-BURR'])
    expect(await search({ kind: 'counted', state: 'draft' })).toEqual(['SEEK-2'])
    expect(await search({ kind: 'judged', state: 'retired' })).toEqual([])
  })

  it('searches the words of the newest revision, also after a draft is changed', async () => {
    const made = await goods.engineer.call(define.createCharacteristic, { body: { code: 'SEEK-3', ...gap, name: 'Old words' } })
    await goods.engineer.call(define.updateCharacteristic, {
      params: { id: made.id },
      body: { ...gap, name: 'New phrase', version: made.version },
    })
    expect(await search({ q: 'old words' })).toEqual([])
    expect(await search({ q: 'new phrase' })).toEqual(['SEEK-3'])
  })
})

describe('a document', () => {
  const png = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
  it('is kept as it came, shown in a frame that runs nothing, and belongs to what it says it is', async () => {
    const body = { name: 'Referenz ü.png', mediaType: 'image/png', content: png.toString('base64') } as const
    const kept = await goods.engineer.call(define.addDocument, { body })
    expect(kept).toMatchObject({ size: png.length, mediaType: 'image/png' })
    const shown = await fetch(`${plant.base}/api/v1/documents/${kept.id}/content`, { headers: { cookie: goods.engineer.cookies } })
    expect(Buffer.from(await shown.arrayBuffer()).equals(png)).toBe(true)
    expect(shown.headers.get('content-security-policy')).toContain('sandbox')
    expect((await refusal(goods.engineer.call(define.addDocument, { body: { ...body, mediaType: 'application/pdf' } })))?.code).toBe('input_invalid')
    expect((await fetch(`${plant.base}/api/v1/documents/${kept.id}/content`)).status).toBe(401)
  })
})
