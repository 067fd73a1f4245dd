import { describeFinding, describeSeverity, type SamplingRule } from '@nemawashi/core'
import { endpoints, type Inspection } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { decideAll, inspect, planLine, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, contain, define, record, trace } = endpoints
// MIL-STD-105E, Table II: 100 pieces at level S-2 have letter B; AQL 4 asks for 3 pieces and accepts on none, tightened for 5 (letter C).
const rule: SamplingRule = { kind: 'attributesScheme', level: 'S-2', aqlPercent: 4, switching: 'withoutReduced' }
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, rule)
  planId = (await goods.plan('PL-S', [{ characteristicId: goods.judged.id }])).id
  await goods.point(planId)
})
afterAll(() => plant.stop())

const open = async (supplierId = goods.supplier.id): Promise<Inspection> => {
  const [lot] = (await receive(plant, goods, { supplierId })).lots
  const inspector = await plant.as('inspector')
  return inspector.call(record.getInspection, { params: { id: lot?.inspections[0]?.id ?? '' } })
}
const settle = async (inspection: Inspection, bad: number) => {
  const finished = await inspect(plant, inspection.id, bad)
  await decideAll(plant, finished, finished.finding.verdict === 'acceptable' ? 'release' : 'scrap')
  return finished
}
const said = ({ lines }: Inspection) => lines.map(({ severity }) => (severity ? describeSeverity(severity) : ''))[0]
const stops = async (state: 'standing' | 'ended' = 'standing') =>
  (await (await plant.as('auditor')).call(contain.listStops, { query: { state } })).rows

it('a line gets tightened inspection after two lots not accepted, says why, and takes the sample of it', async () => {
  const first = await open()
  expect(first.lines[0]).toMatchObject({ sampleSize: 3, accept: 0, severity: { state: 'normal' } })
  await settle(first, 1)
  const waiting = await open()
  await settle(await open(), 1)
  const third = await open()
  expect(third.lines[0]).toMatchObject({
    sampleSize: 5,
    accept: 0,
    severity: { state: 'tightened', because: { kind: 'refused', refused: 2, of: 2 } },
  })
  expect(said(third)).toBe('tightened inspection: 2 of 2 consecutive lots not accepted')
  expect(third.lines[0]?.samplingReasoning).toMatch(/tightened → 5 pieces, Ac 0; tightened inspection: 2 of 2 consecutive lots not accepted$/)
  // What was opened before the switch keeps its inspection and counts for neither side.
  expect(waiting.lines[0]).toMatchObject({ sampleSize: 3 })
  await settle(waiting, 1)
  await settle(third, 0)
})

it('another supplier has a history of its own, and a rehearsal tells what comes without changing anything', async () => {
  expect(said(await open(goods.other.id))).toBe('normal inspection')
  const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId: goods.supplier.id, quantity: 100, lots: 6 }
  const { lots } = await goods.engineer.call(attach.rehearse, { query })
  expect(lots.map(({ considered }) => considered[0]?.lines[0]?.sampleSize)).toEqual([5, 5, 5, 5, 3, 3])
  expect(said(await open())).toBe('tightened inspection: 2 of 2 consecutive lots not accepted')
})

it('acceptance stops after five lots not accepted under tightened inspection: seen on its list, and nothing passes by sample', async () => {
  for (let i = 0; i < 4; i++) await settle(await open(), 1)
  expect(await stops()).toEqual([])
  const fifth = await inspect(plant, (await open()).id, 1)
  expect(await stops()).toMatchObject([{ characteristicCode: 'C-BURR', partCode: 'P-1', partnerName: 'Supplier', inspectionId: fifth.id }])
  const { lots } = await (await plant.as('auditor')).call(contain.getStop, { params: { id: (await stops())[0]?.id ?? '' } })
  expect(lots.map(({ under, isAccepted }) => `${under} ${isAccepted ? 'o' : 'x'}`).join(', ')).toBe(
    'normal x, normal x, normal x, tightened o, tightened x, tightened x, tightened x, tightened x, tightened x',
  )
  const next = await open()
  expect(said(next)).toBe('inspection discontinued: 5 lots not accepted under tightened inspection')
  const judged = await inspect(plant, next.id)
  expect(judged.finding.verdict).toBe('notAcceptable')
  expect(describeFinding(judged.finding)).toBe('Burrs: inspection is discontinued, 0 nonconforming of 5 → lot not acceptable')
  await decideAll(plant, judged, 'concession')
})

it('an inspection that is opened again takes its stop back', async () => {
  const [stop] = await stops()
  const inspector = await plant.as('inspector')
  const last = await inspector.call(record.getInspection, { params: { id: stop?.inspectionId ?? '' } })
  const reopened = await inspector.call(record.reopenInspection, { params: { id: last.id }, body: { version: last.version, reason: 'read wrongly' } })
  expect(await stops()).toEqual([])
  expect(await stops('ended')).toMatchObject([{ endedAs: 'reopened' }])
  const again = await inspector.call(record.finishInspection, { params: { id: last.id }, body: { version: reopened.version } })
  expect(await stops()).toMatchObject([{ inspectionId: last.id, endedAs: null }])
  await decideAll(plant, again, 'scrap')
})

it('a quality manager lets acceptance begin again with a reason, once, and it begins on tightened inspection', async () => {
  const [stop] = await stops()
  const manager = await plant.as('qualityManager')
  const answer = { params: { id: stop?.id ?? '' }, body: { version: stop?.version ?? 0, reason: 'The tool was changed, 50 pieces looked at' } }
  expect((await refusal(goods.engineer.call(contain.answerStop, answer)))?.code).toBe('role_missing')
  expect((await refusal(manager.call(contain.answerStop, { ...answer, body: { ...answer.body, reason: ' ' } })))?.code).toBe('input_invalid')
  expect(await manager.call(contain.answerStop, answer)).toMatchObject({ endedAs: 'answered', endedByName: 'qualityManager' })
  expect((await refusal(manager.call(contain.answerStop, answer)))?.code).toBe('stale_version')
  expect((await refusal(manager.call(contain.answerStop, { ...answer, body: { ...answer.body, version: 2 } })))?.code).toBe('stop_ended')
  const next = await open()
  expect(said(next)).toBe('tightened inspection: acceptance was let begin again')
  const { events } = await manager.call(trace.getPassport, { params: { id: next.lotId ?? '' } })
  expect(events.find(({ kind }) => kind === 'inspectionOpened')?.detail).toContain('acceptance was let begin again')
})

it('another AQL is another scheme: its history begins anew', async () => {
  const params = { id: planId }
  const released = await goods.engineer.call(define.getPlan, { params })
  const { version } = await goods.engineer.call(define.revisePlan, { params, body: { version: released.version } })
  const lines = [planLine(goods.judged.id, { sampling: { ...rule, aqlPercent: 6.5 } as SamplingRule })]
  const draft = await goods.engineer.call(define.updatePlan, { params, body: { name: 'Plan PL-S', lines, version } })
  await goods.engineer.call(define.releasePlan, { params, body: { version: draft.version } })
  expect(said(await open())).toBe('normal inspection')
})
