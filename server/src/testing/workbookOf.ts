import { strToU8, zipSync } from 'fflate'

const office = 'http://schemas.openxmlformats.org'
const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'

/** A workbook of one sheet with these rows as its own text (ECMA-376, part 1, 18.3): what a program for spreadsheets may have written. */
export function workbookOf(rows: string, after = ''): Buffer {
  const relation = (id: string, kind: string, target: string) =>
    `<Relationship Id="${id}" Type="${office}/officeDocument/2006/relationships/${kind}" Target="${target}"/>`
  const relations = (inner: string) => strToU8(`${head}<Relationships xmlns="${office}/package/2006/relationships">${inner}</Relationships>`)
  const main = `xmlns="${office}/spreadsheetml/2006/main"`
  const kind = 'application/vnd.openxmlformats-officedocument.spreadsheetml'
  return Buffer.from(
    zipSync({
      '[Content_Types].xml': strToU8(
        `${head}<Types xmlns="${office}/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${kind}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${kind}.worksheet+xml"/></Types>`,
      ),
      '_rels/.rels': relations(relation('rId1', 'officeDocument', 'xl/workbook.xml')),
      'xl/workbook.xml': strToU8(
        `${head}<workbook ${main} xmlns:r="${office}/officeDocument/2006/relationships"><sheets><sheet name="any" sheetId="1" r:id="rId1"/></sheets></workbook>`,
      ),
      'xl/_rels/workbook.xml.rels': relations(relation('rId1', 'worksheet', 'worksheets/sheet1.xml')),
      'xl/worksheets/sheet1.xml': strToU8(`${head}<worksheet ${main}><sheetData>${rows}</sheetData>${after}</worksheet>`),
    }),
  )
}

/** A row of texts and numbers; what begins with `<` is a cell's own text. */
export function rowOf(number: number, cells: readonly (string | number)[]): string {
  const inner = cells.map((cell, i) => {
    const place = `r="${String.fromCharCode(65 + i)}${number}"`
    if (typeof cell === 'number') return `<c ${place}><v>${cell}</v></c>`
    return cell.startsWith('<') ? `<c ${place}>${cell}</c>` : `<c ${place} t="inlineStr"><is><t>${cell.replaceAll('"', '&quot;')}</t></is></c>`
  })
  return `<row r="${number}">${inner.join('')}</row>`
}
