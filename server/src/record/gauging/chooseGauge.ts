import { describeObjection, gaugeObjections, inspectionStateWords, isBarring, isOpen, type GaugeObjection, type MeasuringTask } from '@nemawashi/core'
import type { Gauge, GaugeKind, GaugeUse, InspectionLine } from '@nemawashi/contract'
import { knownUnits } from '../../define/masters/measureUnits'
import { gaugeKindRows } from '../../define/masters/rows'
import { gaugeByCode } from '../../equip/repository'
import { gaugeRows } from '../../equip/rows'
import { gaugesOf } from '../../inspections/gaugeRepository'
import { loadInspectionLines } from '../../inspections/inspections'
import { inspectionRows } from '../../inspections/rows'
import { insertGaugeUses } from '../../inspections/writes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'

/** What a line measures; one that names no kind of gauge is measured with any. */
const taskOf = ({ kind, details, unit, lower, upper }: InspectionLine, chosenKind: string): MeasuringTask => ({
  gaugeKind: details.gaugeKind || chosenKind,
  ...(kind === 'measured' ? { unit, lower, upper } : { unit: null, lower: null, upper: null }),
})

/** @throws {ServerError} `gauge_unfit` with what speaks against it, `reason_missing` where the reason is none. */
function requireFit({ code }: Gauge, kind: GaugeKind, objections: readonly GaugeObjection[], reason: string): void {
  if (objections.length === 0) return
  const isWaivable = kind.isWaivable && !objections.some(isBarring)
  if (!isWaivable || reason === '') {
    const why = `${code} ${objections.map((objection) => describeObjection(objection)).join('; ')}.`
    throw new ServerError('gauge_unfit', why, { gauge: code, objections, isWaivable })
  }
  if (reason.length < 3) throw new ServerError('reason_missing', `Received "${reason}" as the reason.`, { field: 'reason' })
}

/**
 * Says with which gauge a line is measured from now on. Lines that ask for the same kind, and have none yet, get it too where nothing speaks
 * against it. What speaks against it needs a reason, where the kind can be waived; the reason is kept with the objections.
 * @returns the gauges of the inspection
 * @throws {ServerError} `not_found`, `inspection_closed`, `reference_unknown`, `gauge_unfit`, `reason_missing`.
 */
export async function chooseGauge(
  work: Work,
  inspectionId: string,
  { lineId, code, reason }: { lineId: string; code: string; reason: string },
): Promise<GaugeUse[]> {
  const { manager, today } = work
  const current = await inspectionRows.find(manager, { id: inspectionId })
  if (!current) throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  if (!isOpen(current.state)) throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]} already.`)
  const lines = await loadInspectionLines(manager, inspectionId)
  const line = lines.find(({ id }) => id === lineId)
  if (!line) throw new ServerError('not_found', `${current.code} does not ask for such a line.`, { field: 'lineId' })
  const gaugeId = await gaugeByCode(manager, code)
  if (gaugeId === null) throw new ServerError('reference_unknown', `There is no gauge ${code} in the register.`, { field: 'code', received: code })
  const gauge = await gaugeRows.load(manager, gaugeId)
  const kind = await gaugeKindRows.load(manager, gauge.kindId)
  const units = await knownUnits(manager)
  const facts = { ...gauge, kind: kind.code }
  const against = (asked: InspectionLine) => gaugeObjections(facts, taskOf(asked, kind.code), today, units)
  const objections = against(line)
  requireFit(gauge, kind, objections, reason)
  const chosen = await gaugesOf(manager, inspectionId)
  const others = lines.filter(
    (other) =>
      other.id !== lineId &&
      Boolean(other.details.gaugeKind) &&
      other.details.gaugeKind === line.details.gaugeKind &&
      !chosen.some((use) => use.lineId === other.id) &&
      against(other).length === 0,
  )
  const common = { inspectionId, gaugeId: gauge.id, personId: work.personId ?? '', at: work.now }
  await insertGaugeUses(work, [
    { ...common, id: work.newId(), lineId, objections, reason: objections.length > 0 ? reason : '' },
    ...others.map((other) => ({ ...common, id: work.newId(), lineId: other.id, objections: [], reason: '' })),
  ])
  const after = { gauge: gauge.code, lines: [line, ...others].map(({ name }) => name), objections }
  work.audit({ action: 'gauge chosen', subject: 'inspection', subjectId: inspectionId, after, ...(reason === '' ? {} : { why: reason }) })
  return gaugesOf(manager, inspectionId)
}
