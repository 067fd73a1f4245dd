import { type Current, currentByCode, importSaid, isOnPlan } from './repository'
import { compareDecimal, CoreError, parseDecimal, parseTolerance, type Limits, type MeasureUnit } from '@nemawashi/core'
import {
  documentDigits,
  documentKey,
  fieldsOfRow,
  rowOf,
  tableColumns,
  type CharacteristicFields,
  type FileDocument,
  type ImportCheck,
  type TableColumn,
  type TableRow,
} from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Report } from '../../kernel/threads/progress'
import type { Work } from '../../kernel/work/unitOfWork'
import { knownUnits } from '../masters/measureUnits'
import { checkedFields, detailsOf } from './checkedFields'
import { hashOf, keepDocument } from '../../documents/keepDocument'
import { CharacteristicEntity, CharacteristicRevisionEntity, type CharacteristicRevisionRow } from './entities'
import { linkNames, linksOf, withLinks } from './libraryLinks'
import { importanceClassRows } from '../masters/rows'

/** What a revision says, without its life. */
export function fieldsOf(revision: CharacteristicRevisionRow): CharacteristicFields {
  const { name, kind, class: cls, method, instruction, nominal, lower, upper, unit, resolution, acceptableState, details } = revision
  return { name, kind, class: cls, method, instruction, nominal, lower, upper, unit, resolution, acceptableState, details: detailsOf(details) }
}

/** Rows after which others have their turn. */
const rowsATurn = 100

interface Planned {
  readonly code: string
  readonly fields: CharacteristicFields
  readonly current: Current | null
  readonly isSame: boolean
}

interface ImportPlan extends Pick<ImportCheck, 'problems' | 'missing'> {
  readonly planned: Planned[]
}

/**
 * Reads and checks every row, against the rules of a single one and against the library.
 * @param report says how many rows were read
 * @param carried ids of documents that come with the file, by the digits of their content; any words where nothing is written
 */
export async function planImport(
  reader: Reader,
  rows: readonly TableRow[],
  carried: ReadonlyMap<string, string>,
  report: Report,
): Promise<ImportPlan> {
  const library = await currentByCode(reader)
  const names = await linkNames(reader)
  const missing: ImportCheck['missing'] = []
  const units = await knownUnits(reader)
  const classes = (await importanceClassRows.list(reader, { isActive: true })).map((each) => each.code)
  const written = (code: string, fields: CharacteristicFields) =>
    JSON.stringify([rowOf(code, fields, linksOf(fields, names)), fields.details.documentIds.length])
  const problems: ImportCheck['problems'] = []
  const planned: Planned[] = []
  const seen = new Map<string, number>()
  const readRow = (row: TableRow, i: number): void => {
    const at = i + 1
    const code = (row.code ?? '').trim()
    const before = seen.get(code.toLowerCase())
    if (code !== '' && before !== undefined)
      return void problems.push({ row: at, column: 'code', message: `${code} stands in row ${before} already. Each code stands once.` })
    seen.set(code.toLowerCase(), at)
    if (code !== '' && !/^[\p{L}\p{N}][\p{L}\p{N} ._/-]{0,39}$/u.test(code)) {
      return void problems.push({
        row: at,
        column: 'code',
        message: `Received "${code.slice(0, 60)}". A code has up to 40 letters, digits, spaces and . _ / -`,
      })
    }
    const read = fieldsOfRow(row)
    if ('problems' in read) return void problems.push(...read.problems.map((problem) => ({ row: at, ...problem })))
    const current = library.get(code.toLowerCase()) ?? null
    if (!classes.includes(read.fields.class) && read.fields.class !== current?.revision.class)
      return void problems.push({ row: at, column: 'class', message: `Received "${read.fields.class}". Classes are ${classes.join(', ')}.` })
    try {
      const before = current === null ? null : fieldsOf(current.revision)
      const linked = withLinks(withLimits(read.fields, units), read.links, names, before, carried)
      missing.push(...linked.missing.map((each) => ({ row: at, ...each })))
      const fields = checkedFields(linked.fields, units)
      const isSame = before !== null && written(code, before) === written(code, fields)
      planned.push({ code, fields, current, isSame })
    } catch (error) {
      if (!(error instanceof CoreError) && !(error instanceof ServerError)) throw error
      problems.push({ row: at, column: columnOf(error.facts['field']), message: error.message })
    }
  }
  for (const [i, row] of rows.entries()) {
    if (i % rowsATurn === 0) await report(i, rows.length)
    readRow(row, i)
  }
  return { planned, problems, missing }
}

/** A typed tolerance alone gives the limits and, where it names one, the unit; beside limits it has to say the same. */
function withLimits(fields: CharacteristicFields, units: readonly MeasureUnit[]): CharacteristicFields {
  const { typed } = fields.details
  if (fields.kind !== 'measured' || typed === null) return fields
  const said = parseTolerance(typed, units)
  const unit = fields.unit ?? said.unit
  if (fields.lower === null && fields.upper === null) return { ...fields, ...limitsOf(said), unit }
  const isSame = (['lower', 'upper'] as const).every((side) => {
    const [given, meant] = [fields[side], said[side]]
    return given === null || meant === null ? given === meant : compareDecimal(parseDecimal(given), meant) === 0
  })
  if (isSame) return { ...fields, unit }
  throw new ServerError(
    'input_invalid',
    `"${typed}" means ${said.lower ?? '…'} to ${said.upper ?? '…'}, the limit cells say ${fields.lower ?? '…'} to ${fields.upper ?? '…'}. Correct one of them.`,
    {
      field: 'tolerance',
    },
  )
}

function limitsOf({ nominal, lower, upper }: Limits): Limits {
  return { nominal, lower, upper }
}

function columnOf(field: unknown): TableColumn {
  return (tableColumns as readonly unknown[]).includes(field) ? (field as TableColumn) : 'tolerance'
}

/** How many would be made, revised and left as they are. */
export function counts(planned: readonly Planned[]) {
  const changed = planned.filter((row) => !row.isSame)
  return {
    created: changed.filter((row) => row.current === null).length,
    revised: changed.filter((row) => row.current !== null).length,
    unchanged: planned.length - changed.length,
  }
}

/** What an import did, as its audit entry keeps it: enough to take it back. */
interface Done {
  readonly created: string[]
  readonly drafted: { id: string; revisionId: string; version: number }[]
  readonly changed: { id: string; revisionId: string; version: number; before: CharacteristicFields }[]
}

async function draftRow(work: Work, characteristicId: string, revision: number, fields: CharacteristicFields): Promise<string> {
  const id = work.newId()
  await work.manager.insert(CharacteristicRevisionEntity, {
    ...fields,
    id,
    characteristicId,
    revision,
    state: 'draft',
    releasedAt: null,
    releasedById: null,
  })
  return id
}

/** Keeps the documents that the plant does not have and a row asks for. Shape: → ids by the digits of their content. */
async function keepCarried(work: Work, rows: readonly TableRow[], documents: readonly FileDocument[]): Promise<Map<string, string>> {
  const { documents: known } = await linkNames(work.manager)
  const kept = new Map<string, string>()
  for (const document of documents) {
    const digits = documentDigits(documentKey(document.name, hashOf(document.content)))
    const isWanted = rows.some((row) => row.documents?.includes(digits))
    if (isWanted && !known.idOf.has(digits) && !kept.has(digits)) kept.set(digits, (await keepDocument(work, document)).id)
  }
  return kept
}

/** Imports rows as drafts, all or none. @throws {ServerError} `import_has_errors`; as `keepDocument`. */
export async function importRows(work: Work, rows: readonly TableRow[], documents: readonly FileDocument[], report: Report) {
  const { planned, problems } = await planImport(work.manager, rows, await keepCarried(work, rows, documents), (read) =>
    report(read, 2 * rows.length),
  )
  if (problems.length > 0) {
    const [first] = problems
    throw new ServerError(
      'import_has_errors',
      `${problems.length} cells cannot be imported, the first in row ${first?.row}, ${first?.column}: ${first?.message}`,
      { problems: problems.slice(0, 50) },
    )
  }
  const importId = work.newId()
  const done: Done = { created: [], drafted: [], changed: [] }
  for (const [i, { code, fields, current, isSame }] of planned.entries()) {
    if (i % rowsATurn === 0) await report(rows.length + i, 2 * rows.length)
    if (isSame) continue
    if (current === null) {
      const id = work.newId()
      await work.manager.insert(CharacteristicEntity, { id, code, version: 1, importId })
      await draftRow(work, id, 1, fields)
      done.created.push(id)
      continue
    }
    const version = current.version + 1
    if (current.revision.state === 'draft') {
      await work.manager.update(CharacteristicRevisionEntity, { id: current.revision.id }, fields)
      done.changed.push({ id: current.id, revisionId: current.revision.id, version, before: fieldsOf(current.revision) })
    } else {
      done.drafted.push({ id: current.id, revisionId: await draftRow(work, current.id, current.revision.revision + 1, fields), version })
    }
    await work.manager.update(CharacteristicEntity, { id: current.id }, { version })
  }
  work.audit({ action: 'imported', subject: 'library', subjectId: importId, after: done })
  return { importId, ...counts(planned) }
}

/** Takes an import back, all of it or nothing: what was changed, released or used since stays, and is named. */
export async function undoImport(work: Work, importId: string): Promise<{ removed: number }> {
  const entry = await importSaid(work.manager, 'library', importId)
  if (entry === null) throw new ServerError('not_found', `There is no import with the id ${importId}.`)
  const done = JSON.parse(entry) as Done
  const moved: string[] = []
  const stands = async (id: string, version: number) => {
    const row = await work.manager.findOneBy(CharacteristicEntity, { id })
    const isUsed = await isOnPlan(work.manager, id)
    if (!row || row.version !== version || (isUsed && done.created.includes(id))) moved.push(row?.code ?? 'one that is gone')
  }
  for (const id of done.created) await stands(id, 1)
  for (const { id, version } of [...done.drafted, ...done.changed]) await stands(id, version)
  if (moved.length > 0) {
    throw new ServerError(
      'import_moved_on',
      `The import cannot be taken back: ${moved.slice(0, 10).join(', ')}${moved.length > 10 ? ` and ${moved.length - 10} more` : ''} changed or came into use since.`,
      { moved },
    )
  }
  for (const id of done.created) {
    await work.manager.delete(CharacteristicRevisionEntity, { characteristicId: id })
    await work.manager.delete(CharacteristicEntity, { id })
  }
  for (const { id, revisionId, version } of done.drafted) {
    await work.manager.delete(CharacteristicRevisionEntity, { id: revisionId })
    await work.manager.update(CharacteristicEntity, { id }, { version: version + 1 })
  }
  for (const { id, revisionId, version, before } of done.changed) {
    await work.manager.update(CharacteristicRevisionEntity, { id: revisionId }, before)
    await work.manager.update(CharacteristicEntity, { id }, { version: version + 1 })
  }
  const removed = done.created.length + done.drafted.length + done.changed.length
  work.audit({ action: 'import taken back', subject: 'library', subjectId: importId, after: { removed } })
  return { removed }
}
