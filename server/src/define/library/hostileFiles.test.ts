import { deflateRawSync } from 'node:zlib'
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { checkModel } from '../../documents/checkModel'
import { isOnServer } from '../../testing/database'
import { readWorkbook } from './readWorkbook'

const sheet = (body: string, after = '') =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${body}</sheetData>${after}</worksheet>`),
  })
const refusalOf = async (content: Uint8Array) => {
  const reply = await readWorkbook(Buffer.from(content), 5000)
  return 'refused' in reply ? reply.refused : 'was read'
}
const cell = (at: string) => `<c r="${at}" t="inlineStr"><is><t>x</t></is></c>`

// Files are read without a database: what is seen once is seen.
describe.skipIf(isOnServer)('a workbook that is more than it looks', () => {
  it('is refused for its columns, rows and merges before anything is made of them', async () => {
    expect(await refusalOf(sheet(`<row r="1">${cell('XFD1')}</row>`))).toMatch(/column XFD, the 16384th/)
    expect(await refusalOf(sheet(`<row r="1">${cell('A1')}</row><row r="1048576">${cell('A1048576')}</row>`))).toMatch(/uses the row 1048576/)
    expect(await refusalOf(sheet(Array.from({ length: 12_000 }, (_, i) => `<row r="${i + 1}"/>`).join('')))).toMatch(/12000 rows/)
    expect(await refusalOf(sheet(`<row r="1">${cell('A1')}</row>`, '<mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells>'))).toMatch(
      /cells are merged/,
    )
  })

  it('is refused for what it unpacks to, and where it is no archive at all', async () => {
    const bomb = zipSync({ 'xl/worksheets/sheet1.xml': [new Uint8Array(70 * 1024 * 1024), { level: 9 }] })
    expect(bomb.length).toBeLessThan(200_000)
    expect(await refusalOf(bomb)).toMatch(/unpacks to more than 64 MB/)
    expect(await refusalOf(deflateRawSync(Buffer.from('nonsense')))).toMatch(/cannot be opened/)
  })
})

describe('a model', () => {
  const glb = (accessors: object[], bytes = 0) => {
    const json = Buffer.from(JSON.stringify({ asset: { version: '2.0' }, accessors }).padEnd(200))
    const head = Buffer.alloc(20)
    head.write('glTF', 0, 'latin1')
    head.writeUInt32LE(2, 4)
    head.writeUInt32LE(20 + json.length + bytes, 8)
    head.writeUInt32LE(json.length, 12)
    head.write('JSON', 16, 'latin1')
    return Buffer.concat([head, json, Buffer.alloc(bytes)])
  }
  it('that claims more points than its bytes can hold is refused; one that holds them is kept', () => {
    expect(() => checkModel('x.glb', glb([{ count: 300_000_000, componentType: 5126, type: 'VEC3' }]))).toThrow(/300000000 values of VEC3/)
    expect(() => checkModel('x.glb', glb([{ count: -1 }]))).toThrow(/no usable model/)
    expect(() => checkModel('x.glb', Buffer.from('glTFxxxxxxxxxxxxxxxxxxxx'))).toThrow(/not of version 2/)
    expect(() => checkModel('x.glb', glb([{ count: 10, componentType: 5126, type: 'VEC3' }], 120))).not.toThrow()
  })
})
