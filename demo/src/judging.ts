import { endpoints, type DecisionRowInput, type Inspection } from '@nemawashi/contract'
import type { Trouble } from './inspecting'
import { password } from './plant'
import type { Stage } from './stage'

const { record, contain } = endpoints

export async function startOnly(stage: Stage, id: string, trouble: Trouble | null): Promise<void> {
  const inspection = await stage.by('rosa').call(record.getInspection, { params: { id } })
  await stage.bench.record(stage.by('rosa'), inspection, 0.45, trouble)
}

export async function finishOnly(stage: Stage, id: string, trouble: Trouble | null): Promise<Inspection> {
  const inspector = stage.by(stage.chance.pick(['rosa', 'tomek']))
  const inspection = await inspector.call(record.getInspection, { params: { id } })
  await stage.bench.record(inspector, inspection, 1, trouble)
  const { version } = await inspector.call(record.getInspection, { params: { id } })
  stage.advance(stage.now() + 1000 * 20 * inspection.readings.length + 20 * 60_000)
  return inspector.call(record.finishInspection, { params: { id }, body: { version } })
}

/** Signs what becomes of the pieces: an inspector or the manager where it is good, the manager where it is not. */
export async function decideOn(stage: Stage, id: string, lotId: string | null = null): Promise<void> {
  const inspection = await stage.by('anja').call(record.getInspection, { params: { id }, query: lotId === null ? {} : { lotId } })
  const isGood = inspection.finding.verdict === 'acceptable'
  const signer = isGood && stage.chance.next() < 0.7 ? stage.by('rosa') : stage.by('anja')
  await signer.call(contain.decide, { params: { id }, body: { version: inspection.version, password, lotId, rows: rowsFor(stage, inspection) } })
}

function rowsFor({ chance }: Stage, inspection: Inspection): DecisionRowInput[] {
  const held = inspection.balances.filter((balance) => balance.standing === 'onHold')
  if (inspection.finding.verdict === 'acceptable')
    return held.map(({ containerId, quantity }) => ({ containerId, quantity, disposition: 'release', reason: '' }))
  const worst = inspection.finding.lines.find((line) => line.verdict === 'notAcceptable')?.name ?? ''
  const isMinor = inspection.lines
    .filter((_line, i) => inspection.finding.lines[i]?.verdict === 'notAcceptable')
    .every((line) => line.class === 'minor')
  if (isMinor)
    return held.map(({ containerId, quantity }) => ({
      containerId,
      quantity,
      disposition: 'concession',
      reason: `${worst}: no effect on strength or function, agreed with production`,
    }))
  // What was made here goes back to nobody.
  if (inspection.originKind !== 'delivery')
    return held.map(({ containerId, quantity }) => ({
      containerId,
      quantity,
      disposition: 'quarantine',
      reason: `${worst}: the whole lot is kept apart`,
    }))
  return held.map(({ containerId, quantity }, i): DecisionRowInput => {
    if (i === 0 && held.length > 1) return { containerId, quantity, disposition: 'quarantine', reason: `${worst}: every piece to be tested` }
    const disposition = chance.next() < 0.8 ? 'returnToSupplier' : 'scrap'
    return { containerId, quantity, disposition, reason: `${worst} outside the limits, replacement asked for` }
  })
}
