import { cellCount, checkEvidence, inspectionStateWords } from '@nemawashi/core'
import type { Evidence, EvidenceInput } from '@nemawashi/contract'
import { faultCodeRows } from '../../define/masters/rows'
import { headOf, hasDocument } from '../../documents/repository'
import type { InspectionRow } from '../../inspections/entities'
import { evidenceOf } from '../../inspections/evidenceRepository'
import { loadInspectionLines } from '../../inspections/inspections'
import { evidenceRows, inspectionRows } from '../../inspections/rows'
import { insertEvidence, withdrawEvidenceRow } from '../../inspections/writes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'

/** Until it is decided, what is seen on its pieces can be said. */
async function loadUndecided(work: Work, id: string): Promise<InspectionRow> {
  const current = await inspectionRows.find(work.manager, { id })
  if (!current) throw new ServerError('not_found', `There is no inspection with the id ${id}.`)
  if (current.state === 'decided' || current.state === 'cancelled')
    throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]}: nothing is said of its pieces any more.`)
  return current
}

/** @throws {ServerError} `not_found`, `piece_unknown` */
async function requirePiece(work: Work, current: InspectionRow, { lineId, piece }: EvidenceInput): Promise<void> {
  if (lineId === null) {
    if (piece !== null) throw new ServerError('piece_unknown', `Received piece ${piece} without the line that looks at it.`, { field: 'lineId' })
    return
  }
  const line = (await loadInspectionLines(work.manager, current.id)).find(({ id }) => id === lineId)
  if (!line) throw new ServerError('not_found', `${current.code} does not ask for such a line.`, { field: 'lineId' })
  const cells = cellCount({ recording: line.details.recording, sampleSize: line.sampleSize })
  if (piece !== null && (piece < 1 || piece > cells))
    throw new ServerError('piece_unknown', `Received piece ${piece}. ${line.name} looks at pieces 1 to ${cells}.`, {
      field: 'piece',
      received: piece,
    })
}

/**
 * Says more of a piece, a line or an inspection than its answers do: a fault of the plant's list and how often it is there, words, a picture or
 * another file, a place on the picture.
 * @returns all that stands
 * @throws {CoreError} as `checkEvidence`; {ServerError} `not_found`, `inspection_closed`, `piece_unknown`, `reference_unknown`.
 */
export async function addEvidence(work: Work, id: string, input: EvidenceInput): Promise<Evidence[]> {
  const current = await loadUndecided(work, id)
  await requirePiece(work, current, input)
  const { documentId, faultCode, place, lineId, piece, count, words } = input
  if (documentId !== null && !(await hasDocument(work.manager, documentId)))
    throw new ServerError('reference_unknown', 'The file is not kept here. Choose it again.', { field: 'documentId', received: documentId })
  if (faultCode !== null && !(await faultCodeRows.exists(work.manager, { code: faultCode, isActive: true })))
    throw new ServerError('reference_unknown', `There is no fault code ${faultCode} in use.`, { field: 'faultCode', received: faultCode })
  const hasPicture = documentId !== null && (await headOf(work.manager, documentId)).mediaType.startsWith('image/')
  checkEvidence({ faultCode, count, words, hasPicture, hasDocument: documentId !== null, place })
  const row = {
    ...{ id: work.newId(), inspectionId: id, lineId, piece, faultCode, count, words, documentId },
    ...{ placeX: place?.x ?? null, placeY: place?.y ?? null },
    ...{ personId: work.personId ?? '', at: work.now, withdrawnAt: null, withdrawnById: null },
  }
  await insertEvidence(work, row)
  work.audit({ action: 'evidence added', subject: 'inspection', subjectId: id, after: { evidence: row.id, ...input } })
  return evidenceOf(work.manager, id)
}

/** Which inspection something was said of. @throws {ServerError} `not_found` */
export async function inspectionOfEvidence(work: Work, evidenceId: string): Promise<string> {
  const row = await evidenceRows.find(work.manager, { id: evidenceId })
  if (!row) throw new ServerError('not_found', `Nothing was said under the id ${evidenceId}.`)
  return row.inspectionId
}

/** Takes back what was said. It stays with who took it back, and nobody sees it among what stands. @throws {ServerError} `not_found`, `inspection_closed` */
export async function withdrawEvidence(work: Work, evidenceId: string, reason: string): Promise<Evidence[]> {
  const inspectionId = await inspectionOfEvidence(work, evidenceId)
  await loadUndecided(work, inspectionId)
  const row = await evidenceRows.load(work.manager, evidenceId)
  if (row.withdrawnAt !== null) work.nothingChanged()
  else {
    await withdrawEvidenceRow(work, evidenceId)
    work.audit({ action: 'evidence withdrawn', subject: 'inspection', subjectId: inspectionId, after: { evidence: evidenceId }, why: reason })
  }
  return evidenceOf(work.manager, inspectionId)
}
