import { calibrationDue, compareDecimal, CoreError, parseDecimal, unitOf, type GaugeState } from '@nemawashi/core'
import { gaugeKeepers, maySetGaugeState, roleWords, type Gauge, type Person } from '@nemawashi/contract'
import { ServerError } from '../kernel/base/serverError'
import { loadAt, requireFreeCode, requireReference, saveNext } from '../kernel/work/versioned'
import type { Work } from '../kernel/work/unitOfWork'
import { knownUnits } from '../define/masters/measureUnits'
import { gaugeKindRows } from '../define/masters/rows'
import { GaugeEntity } from './entities'

type Numbers = Pick<Gauge, 'resolution' | 'unit' | 'lower' | 'upper' | 'calibratedOn' | 'intervalMonths'>
/** What somebody says of a gauge. */
export type GaugeInput = Omit<Gauge, 'id' | 'version' | 'state' | 'stateReason' | 'stateSince' | 'dueOn'>

/**
 * Brings the numbers of a gauge to their kept form, with the day on which it is due.
 * @throws {CoreError} `not_a_number`, `number_too_long`, `resolution_not_positive`, `limits_reversed`, `unit_unknown`; {ServerError} `input_invalid`
 * where a number stands without a unit, or a calibration lies ahead.
 */
async function checkedNumbers(work: Work, numbers: Numbers): Promise<Numbers & Pick<Gauge, 'dueOn'>> {
  const { unit, calibratedOn, intervalMonths } = numbers
  const kept = {
    resolution: decimalIn(numbers.resolution, 'resolution'),
    lower: decimalIn(numbers.lower, 'lower'),
    upper: decimalIn(numbers.upper, 'upper'),
  }
  if (unit !== null) unitOf(unit, await knownUnits(work.manager))
  else if (Object.values(kept).some((value) => value !== null))
    throw new ServerError('input_invalid', 'The gauge has numbers and no unit.', { field: 'unit' })
  if (kept.resolution !== null && compareDecimal(kept.resolution, '0') <= 0)
    throw new CoreError('resolution_not_positive', `Received a resolution of ${kept.resolution}. It is the smallest step that the gauge shows.`, {
      received: kept.resolution,
      field: 'resolution',
    })
  if (kept.lower !== null && kept.upper !== null && compareDecimal(kept.lower, kept.upper) >= 0)
    throw new CoreError('limits_reversed', `The gauge measures from ${kept.lower} to ${kept.upper}: the first has to be the smaller one.`, {
      field: 'lower',
    })
  if (calibratedOn !== null && calibratedOn > work.today)
    throw new ServerError('input_invalid', `Received a calibration on ${calibratedOn}, which is a day to come.`, {
      field: 'calibratedOn',
      received: calibratedOn,
    })
  const dueOn = calibratedOn === null || intervalMonths === null ? null : calibrationDue(calibratedOn, intervalMonths)
  return { ...kept, unit, calibratedOn, intervalMonths, dueOn }
}

function decimalIn(text: string | null, field: string): string | null {
  if (text === null || text.trim() === '') return null
  try {
    return parseDecimal(text)
  } catch (error) {
    if (error instanceof CoreError) throw new CoreError(error.code, error.message, { ...error.facts, field })
    throw error
  }
}

/** Puts a gauge into the register, in use. @throws {ServerError} `already_exists`, `reference_unknown`; and as `checkedNumbers` */
export async function createGauge(work: Work, input: GaugeInput): Promise<Gauge> {
  await requireFreeCode(work, GaugeEntity, 'gauge', input.code, null)
  await requireReference(work, gaugeKindRows, 'gauge kind', input.kindId, 'kindId')
  const row: Gauge = {
    ...input,
    ...(await checkedNumbers(work, input)),
    id: work.newId(),
    version: 1,
    state: 'inUse',
    stateReason: '',
    stateSince: work.now,
  }
  await work.manager.insert(GaugeEntity, { ...row })
  work.audit({ action: 'created', subject: 'gauge', subjectId: row.id, after: input })
  return row
}

/** @throws {ServerError} `not_found`, `stale_version`, `already_exists`, `reference_unknown`; and as `checkedNumbers` */
export async function updateGauge(work: Work, id: string, { version, ...input }: GaugeInput & { version: number }): Promise<Gauge> {
  const current = await loadAt(work, GaugeEntity, 'gauge', id, version)
  await requireFreeCode(work, GaugeEntity, 'gauge', input.code, id)
  await requireReference(work, gaugeKindRows, 'gauge kind', input.kindId, 'kindId')
  const fields = { ...input, ...(await checkedNumbers(work, input)) }
  await saveNext(work, GaugeEntity, 'gauge', 'changed', current, fields)
  return { ...current, ...fields, version: version + 1 }
}

/**
 * Locks, unlocks or retires a gauge. Whoever measures with it may lock it; only who answers for it lets it go on. What is retired stays so.
 * @throws {ServerError} `not_found`, `stale_version`, `already_retired`, `role_missing`
 */
export async function setGaugeState(
  work: Work,
  id: string,
  { version, state, reason }: { version: number; state: GaugeState; reason: string },
  person: Person | null,
): Promise<Gauge> {
  if (!maySetGaugeState(person?.roles ?? [], state))
    throw new ServerError('role_missing', `A gauge is unlocked and retired by: ${gaugeKeepers.map((role) => roleWords[role]).join(', ')}.`, {
      needed: gaugeKeepers,
    })
  const current = await loadAt(work, GaugeEntity, 'gauge', id, version)
  if (current.state === 'retired')
    throw new ServerError('already_retired', `${current.code} is retired: ${current.stateReason}. Put a new one into the register.`, { id })
  const changes = { state, stateReason: state === 'inUse' ? '' : reason, stateSince: work.now }
  await saveNext(work, GaugeEntity, 'gauge', { inUse: 'unlocked', locked: 'locked', retired: 'retired' }[state], current, changes, reason)
  return { ...current, ...changes, version: version + 1 }
}
