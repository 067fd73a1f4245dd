import { cellCount, checkAdapted, isOpen } from '@nemawashi/core'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadInspectionLines, loadReadings } from '../../inspections/inspections'
import { controlPointRows } from '../../attach/rows'
import { insertAdaptation, loadInspectionAt, saveInspection } from '../../inspections/writes'

/**
 * Changes the sample of a line, or drops the line: where its control point is adaptable, with the reason. The readings that are there
 * stay, and so does the line as it was opened; of a staged plan or one by variables the sample is what the plan is made of, and stays as it is.
 * @throws {ServerError} `not_found`, `stale_version`, `inspection_closed`, `not_adaptable`; {CoreError} as `checkAdapted`.
 */
export async function adaptLine(
  work: Work,
  id: string,
  { version, lineId, sampleSize, accept, reason }: { version: number; lineId: string; sampleSize: number; accept: number; reason: string },
): Promise<void> {
  const current = await loadInspectionAt(work, id, version)
  if (!isOpen(current.state)) throw new ServerError('inspection_closed', `${current.code} is closed: its samples stand.`)
  const point = await controlPointRows.load(work.manager, current.controlPointId)
  if (point.need !== 'adaptable')
    throw new ServerError('not_adaptable', `The control point ${point.code} is fixed: what it asks is asked as it stands.`, {
      controlPoint: point.code,
    })
  const lines = await loadInspectionLines(work.manager, id)
  const line = lines.find((entry) => entry.id === lineId)
  if (!line) throw new ServerError('not_found', `${current.code} does not ask for such a line.`, { field: 'lineId' })
  if (sampleSize > 0 && (line.stages !== null || line.variables !== null))
    throw new ServerError(
      'not_adaptable',
      `${line.name} is judged by a plan of stages or by variables: its sample is part of the plan. It can only be dropped.`,
      {
        line: line.name,
      },
    )
  if (sampleSize === 0 && lines.length === 1)
    throw new ServerError('not_adaptable', `${line.name} is the last line of ${current.code}: cancel the inspection instead.`, { line: line.name })
  const readings = (await loadReadings(work.manager, id)).filter((reading) => reading.lineId === lineId && reading.value !== null)
  checkAdapted({ sampleSize, accept }, { lotSize: current.lotSize, answered: Math.max(0, ...readings.map(({ piece }) => piece)) })
  await insertAdaptation(work, {
    id: work.newId(),
    inspectionId: id,
    lineId,
    beforeSize: line.sampleSize,
    beforeAccept: line.accept,
    afterSize: sampleSize,
    afterAccept: accept,
    reason,
    at: work.now,
    personId: work.personId ?? '',
  })
  const { recording } = line.details
  const cells = current.asked + cellCount({ recording, sampleSize }) - cellCount({ recording, sampleSize: line.sampleSize })
  const rest = lines.map((entry) => (entry.id === lineId ? sampleSize : entry.sampleSize)).filter((size) => size > 0)
  await saveInspection(
    work,
    sampleSize === 0 ? 'line dropped' : 'sample changed',
    current,
    { asked: cells, sampleMost: Math.max(...rest), lineCount: rest.length },
    `${line.name}: ${reason}`,
  )
}
