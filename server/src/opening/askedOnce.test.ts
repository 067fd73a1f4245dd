import type { AddressInfo } from 'node:net'
import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { buildApp } from '../app/app'
import { burr, password, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'

const { attach, define, record } = endpoints
let plant: Plant
let goods: Stock

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

const fixed = (sampleSize: number) => ({ kind: 'fixedNumber', sampleSize, accept: 0 }) as const
async function planOf(code: string, lines: readonly (readonly [characteristicId: string, sampleSize: number])[]): Promise<string> {
  const made = await goods.engineer.call(define.createPlan, {
    body: {
      code,
      name: `Plan ${code}`,
      lines: lines.map(([characteristicId, n]) => ({ characteristicId, sampling: fixed(n), isRequired: true, isDecisive: false })),
    },
  })
  return (await goods.engineer.call(define.releasePlan, { params: { id: made.id }, body: { version: made.version } })).id
}
const open = async () => {
  const { lots } = await receive(plant, goods, { quantity: 30 })
  const inspector = await plant.as('inspector')
  const found = []
  for (const { id } of lots[0]?.inspections ?? []) found.push(await inspector.call(record.getInspection, { params: { id } }))
  return found
}

describe('a line that several control points ask', () => {
  it('is asked once, by the gate, with the larger sample, and each says so', async () => {
    const small = await planOf('PL-SMALL', [[goods.measured.id, 3]])
    const large = await planOf('PL-LARGE', [
      [goods.measured.id, 8],
      [goods.judged.id, 2],
    ])
    await goods.under([{ planId: large, change: { isGate: false } }, { planId: small }], async () => {
      const inspections = await open()
      const gate = inspections.find(({ isGate }) => isGate)
      const free = inspections.find(({ isGate }) => !isGate)
      expect(gate?.lines).toMatchObject([{ code: 'C-GAP', sampleSize: 8, alsoFor: [{ planName: 'Plan PL-LARGE', sampleSize: 8 }] }])
      expect(free?.lines).toMatchObject([{ code: 'C-BURR', sampleSize: 2, alsoFor: [] }])
      expect(free?.leftOut).toEqual([{ name: 'Gate gap', inspectionId: gate?.id, code: gate?.code }])
    })
  })

  it('is shown so by a rehearsal', async () => {
    const { rows } = await goods.engineer.call(define.listPlans, { query: {} })
    const planId = (code: string) => rows.find((row) => row.code === code)?.id ?? ''
    await goods.under([{ planId: planId('PL-LARGE'), change: { isGate: false } }, { planId: planId('PL-SMALL') }], async () => {
      const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId: goods.supplier.id, quantity: 30, lots: 1 }
      const { lots } = await goods.engineer.call(attach.rehearse, { query })
      const lines = Object.fromEntries((lots[0]?.considered ?? []).map(({ planName, lines: own }) => [planName, own]))
      expect(lines['Plan PL-SMALL']).toMatchObject([{ name: 'Gate gap', sampleSize: 8, askedBy: null }])
      expect(lines['Plan PL-LARGE']).toMatchObject([
        { name: 'Gate gap', askedBy: 'Plan PL-SMALL' },
        { name: 'Burrs', sampleSize: 2, askedBy: null },
      ])
    })
  })

  it('leaves a control point nothing to ask: it opens none, and its history goes by the one that asks', async () => {
    const twin = await planOf('PL-TWIN', [[goods.judged.id, 2]])
    const whole = await planOf('PL-WHOLE', [[goods.judged.id, 5]])
    await goods.under([{ planId: twin, change: { isGate: false } }, { planId: whole }], async () => {
      const inspections = await open()
      expect(inspections.map(({ planName, lines }) => [planName, lines[0]?.sampleSize])).toEqual([['Plan PL-WHOLE', 5]])
      const considered = (await plant.kernel.database.reader.query('SELECT c.inspection_id FROM consideration c WHERE c.lot_id = ?', [
        inspections[0]?.lotId,
      ])) as { inspectionId: string }[]
      expect(considered.map(({ inspectionId }) => inspectionId)).toEqual([inspections[0]?.id, inspections[0]?.id])
    })
  })
})

describe('what a control point asks', () => {
  const adapt = (id: string, body: object, role: 'qualityEngineer' | 'inspector' = 'qualityEngineer') =>
    plant
      .as(role)
      .then((by) => by.call(record.adaptLine, { params: { id }, body: { accept: 0, reason: 'first lots of a known heat', ...body } as never }))

  it('that is changed at another server of the plant is asked here as it is then', async () => {
    const planId = await planOf('PL-TWO', [[goods.measured.id, 8]])
    const elsewhere = buildApp(plant.kernel, null).listen(0, '127.0.0.1')
    await new Promise((resolve) => elsewhere.once('listening', resolve))
    await goods.under([{ planId, change: { need: 'adaptable' } }], async () => {
      const [inspection] = await open()
      const [id, lineId] = [inspection?.id ?? '', inspection?.lines[0]?.id ?? '']
      const inspector = await plant.as('inspector')
      const give = (piece: number) => inspector.call(record.recordReadings, { params: { id }, body: { readings: [reading(lineId, piece, '0.30')] } })
      const { version } = await give(1)
      const there = new ApiClient(`http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}`)
      await there.call(endpoints.people.signIn, { body: { signInName: 'qualityEngineer', password } })
      const body = { version, lineId, sampleSize: 3, accept: 0, reason: 'first lots of a known heat' }
      await there.call(record.adaptLine, { params: { id }, body })
      expect((await refusal(give(4)))?.code).toBe('piece_unknown')
      await give(3)
    })
    elsewhere.close()
  })

  it('is changed on the spot where it is adaptable, by an engineer, with a reason that is kept', async () => {
    const scratch = await goods.characteristic('C-SCRATCH', burr)
    const planId = await planOf('PL-AD', [
      [goods.measured.id, 8],
      [scratch.id, 4],
    ])
    await goods.under([{ planId, change: { need: 'adaptable' } }], async () => {
      const [inspection] = await open()
      if (!inspection) throw new Error('no inspection')
      const [first, second] = inspection.lines
      const line = { version: inspection.version, lineId: first?.id }
      expect((await refusal(adapt(inspection.id, { ...line, sampleSize: 31 })))?.code).toBe('sample_size_invalid')
      expect((await refusal(adapt(inspection.id, { ...line, sampleSize: 3, accept: 3 })))?.code).toBe('acceptance_number_invalid')
      expect((await refusal(adapt(inspection.id, { ...line, sampleSize: 3 }, 'inspector')))?.code).toBe('role_missing')
      const changed = await adapt(inspection.id, { ...line, sampleSize: 3 })
      expect(changed.lines[0]).toMatchObject({ sampleSize: 3, accept: 0, adaptedFrom: { sampleSize: 8, reason: 'first lots of a known heat' } })
      const dropped = await adapt(inspection.id, { version: changed.version, lineId: second?.id, sampleSize: 0 })
      expect([dropped.lines.length, dropped.dropped]).toMatchObject([1, [{ name: 'Burrs', sampleSize: 4 }]])
      expect((await refusal(adapt(inspection.id, { version: dropped.version, lineId: first?.id, sampleSize: 0 })))?.code).toBe('not_adaptable')
      // The bench takes three pieces now, and the fourth is none of them.
      const inspector = await plant.as('inspector')
      const give = (piece: number) =>
        inspector.call(record.recordReadings, { params: { id: inspection.id }, body: { readings: [reading(first?.id ?? '', piece, '0.30')] } })
      expect((await refusal(give(4)))?.code).toBe('piece_unknown')
      for (const number of [1, 2, 3]) await give(number)
      const { version } = await inspector.call(record.getInspection, { params: { id: inspection.id } })
      expect((await refusal(adapt(inspection.id, { version, lineId: first?.id, sampleSize: 2 })))?.code).toBe('sample_size_invalid')
      const { finding } = await inspector.call(record.finishInspection, { params: { id: inspection.id }, body: { version } })
      expect(finding).toMatchObject({ verdict: 'acceptable', lines: [{ inspected: 3 }] })
    })
  })

  it('stands as it is where it is fixed', async () => {
    const { rows } = await goods.engineer.call(define.listPlans, { query: { q: 'PL-AD' } })
    await goods.under([{ planId: rows[0]?.id ?? '' }], async () => {
      const [inspection] = await open()
      const body = { version: inspection?.version, lineId: inspection?.lines[0]?.id, sampleSize: 3 }
      expect((await refusal(adapt(inspection?.id ?? '', body)))?.code).toBe('not_adaptable')
    })
  })
})
