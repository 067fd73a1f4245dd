import { isOverSinceChosen } from '@nemawashi/core'
import type { InspectionLine, ReadingInput } from '@nemawashi/contract'
import { dayOf } from '../../kernel/database/plantTime'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { admittedGauges, askedKinds } from '../../inspections/gaugeRepository'
import { wantsGauge } from '../../inspections/inspections'

type Typed = Pick<ReadingInput, 'id' | 'lineId' | 'piece' | 'value' | 'typedAt' | 'gaugeId'>

/**
 * Whoever measures says with what: a line whose kind of gauge is asked by name takes no value without one, no line takes one of a gauge that was
 * not chosen for it, and none takes a value that was typed after its gauge was locked, retired, or went over its day.
 * @throws {ServerError} `gauge_missing`, `gauge_unfit`, each with the fact `readingId`.
 */
export async function requireGauges(
  work: Work,
  inspectionId: string,
  lines: ReadonlyMap<string, InspectionLine>,
  inputs: readonly Typed[],
): Promise<void> {
  const measured = inputs.flatMap((input) => {
    const line = lines.get(input.lineId)
    return line === undefined || input.value === null || (!line.details.gaugeKind && input.gaugeId == null) ? [] : [{ input, line }]
  })
  if (measured.length === 0) return
  const kinds = await askedKinds(work.manager)
  const named = measured.filter(({ line, input }) => wantsGauge(line, kinds) || input.gaugeId != null)
  if (named.length === 0) return
  const admitted = await admittedGauges(work.manager, inspectionId)
  for (const { line, input } of named) {
    const facts = { readingId: input.id, lineId: line.id, piece: input.piece }
    const gauge = admitted.find(({ lineId, gaugeId }) => lineId === line.id && gaugeId === input.gaugeId)
    if (!gauge)
      throw new ServerError(
        'gauge_missing',
        `Piece ${input.piece} of ${line.name} says no ${line.details.gaugeKind ?? 'gauge'} that was chosen for it.`,
        {
          ...facts,
          gaugeKind: line.details.gaugeKind,
        },
      )
    if (gauge.state !== 'inUse' && gauge.stateSince <= input.typedAt)
      throw new ServerError('gauge_unfit', `${gauge.code} is ${gauge.state}: ${gauge.stateReason}.`, {
        ...facts,
        gauge: gauge.code,
        objections: [{ kind: gauge.state }],
        isWaivable: false,
      })
    if (isOverSinceChosen(gauge, dayOf(work.manager, input.typedAt)))
      throw new ServerError(
        'gauge_unfit',
        `${gauge.code} was due for calibration on ${gauge.dueOn}, after it was chosen. Choose it again, or another.`,
        {
          ...facts,
          gauge: gauge.code,
          objections: [{ kind: 'overdue', dueOn: gauge.dueOn }],
          isWaivable: true,
        },
      )
  }
}
