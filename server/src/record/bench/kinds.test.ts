import { endpoints, type CharacteristicFields, type PlanLineInput } from '@nemawashi/contract'
import { documentIn, documentText, describeFinding, describeLine, type Finding, type SamplingRule } from '@nemawashi/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { burr, gap, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define, record } = endpoints
let plant: Plant
let goods: Stock
let counter = 0
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

type Fields = Omit<CharacteristicFields, 'details'> & { details?: Partial<CharacteristicFields['details']> }
const describeFirst = ({ lines: [first] }: Finding) => (first ? describeLine(first) : '')
const none = { ...burr, acceptableState: null }
const create = (code: string, fields: Fields) => goods.engineer.call(define.createCharacteristic, { body: { code, ...fields } as never })

/** One characteristic with a sampling rule on a plan of its own, hung at receiving in place of the one before; a delivery of 100 opens it. */
let hung: { id: string; version: number } | null = null
async function arrive(fields: Fields, sampling: SamplingRule, line: Partial<PlanLineInput> = {}) {
  const code = `K-${++counter}`
  const made = await create(code, fields)
  await goods.engineer.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
  const plan = await goods.engineer.call(define.createPlan, {
    body: { code: `PK-${counter}`, name: code, lines: [{ characteristicId: made.id, sampling, isRequired: true, isDecisive: false, ...line }] },
  })
  await goods.engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  if (hung) await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: hung.id }, body: { version: hung.version } })
  hung = await goods.point(plan.id)
  const delivery = await receive(plant, goods)
  const inspector = await plant.as('inspector')
  const id = delivery.lots[0]?.inspections[0]?.id ?? ''
  const load = () => inspector.call(record.getInspection, { params: { id } })
  const opened = (await load()).lines[0]
  const lineId = opened?.id ?? ''
  return {
    characteristicId: made.id,
    id,
    line: opened,
    load,
    answer: (values: readonly string[], from = 1) =>
      inspector.call(record.recordReadings, {
        params: { id },
        body: { readings: values.map((value, i) => reading(lineId, from + i, value, { isConfirmedOutside: true })) },
      }),
    finish: async (skips: { lineId: string; reason: string }[] = []) =>
      inspector.call(record.finishInspection, { params: { id }, body: { version: (await load()).version, skips } }),
  }
}
const three: SamplingRule = { kind: 'fixedNumber', sampleSize: 3, accept: 0 }

describe('a characteristic of each kind', () => {
  it('coded: the answers of its list, each with its meaning; one that is neither is answered and not judged', async () => {
    const answers = [
      { code: 'E', words: 'even', verdict: 'conforming' as const, followUpPlanId: null },
      { code: 'M', words: 'matt', verdict: 'nonconforming' as const, followUpPlanId: null },
      { code: 'R', words: 'reference', verdict: 'neither' as const, followUpPlanId: null },
    ]
    const bench = await arrive({ ...none, name: 'Look', kind: 'coded', details: { answers } }, three)
    expect((await refusal(bench.answer(['Z'])))?.code).toBe('answer_invalid')
    const { readings } = await bench.answer(['e', 'M', 'R'])
    expect(readings.map((entry) => [entry.value, entry.mark])).toEqual([
      ['E', 'conforming'],
      ['M', 'nonconforming'],
      ['R', 'notJudged'],
    ])
    expect(await bench.finish()).toMatchObject({ finding: { verdict: 'notAcceptable' } })
  })

  it('coded: an answer may ask for a further plan, which is opened once on the same lot and holds it too', async () => {
    const further = await goods.plan('FURTHER', [{ characteristicId: goods.judged.id }])
    const answers = [
      { code: 'E', words: 'even', verdict: 'conforming' as const, followUpPlanId: null },
      { code: 'S', words: 'stained', verdict: 'neither' as const, followUpPlanId: further.id },
    ]
    const bench = await arrive({ ...none, name: 'Stain', kind: 'coded', details: { answers } }, three)
    await bench.answer(['E', 'S', 'S'])
    const finished = await bench.finish()
    expect(finished.followUps).toMatchObject([{ planName: 'Plan FURTHER', state: 'toDo' }])
    expect(finished.otherOpenInspections).toEqual(finished.followUps.map(({ code }) => code))
    const inspector = await plant.as('inspector')
    const opened = await inspector.call(record.getInspection, { params: { id: finished.followUps[0]?.id ?? '' } })
    expect(opened).toMatchObject({ lotId: finished.lotId, isGate: true, follows: { code: finished.code }, lotSize: 100 })
    const reopened = await inspector.call(record.reopenInspection, {
      params: { id: bench.id },
      body: { version: finished.version, reason: 'looked again' },
    })
    expect((await bench.finish()).followUps).toHaveLength(1)
    expect(reopened.followUps).toHaveLength(1)
    expect(await refusal(goods.engineer.call(define.retirePlan, { params: { id: further.id }, body: { version: further.version } }))).toMatchObject({
      code: 'still_in_use',
      facts: { characteristics: [`K-${counter}`] },
    })
  })

  it('coded: is not released while an answer asks for a plan that could not be opened', async () => {
    const draft = await goods.engineer.call(define.createPlan, {
      body: {
        code: 'NOT-YET',
        name: 'Not yet',
        lines: [{ characteristicId: goods.judged.id, sampling: three, isRequired: true, isDecisive: false }],
      },
    })
    const answers = [
      { code: 'E', words: 'even', verdict: 'conforming' as const, followUpPlanId: null },
      { code: 'S', words: 'stained', verdict: 'nonconforming' as const, followUpPlanId: draft.id },
    ]
    const made = await create('K-EARLY', { ...none, name: 'Early', kind: 'coded', details: { answers } })
    const release = () => goods.engineer.call(define.releaseMany, { body: { characteristics: [{ id: made.id, version: made.version }] } })
    expect(await refusal(release())).toMatchObject({ code: 'nothing_released', facts: { answer: 'S', plan: 'NOT-YET' } })
    await goods.engineer.call(define.releasePlan, { params: { id: draft.id }, body: { version: draft.version } })
    expect(await release()).toEqual({ released: 1 })
  })

  it('counted: nonconformities by fault code, judged per 100 units', async () => {
    const rule: SamplingRule = { kind: 'attributesScheme', level: 'S-1', aqlPercent: 40, counting: 'nonconformities' }
    const bench = await arrive(
      { ...none, name: 'Marks', kind: 'counted', details: { countUnit: 'marks on a body', faultCodes: ['SCR', 'DENT'] } },
      rule,
    )
    expect(bench.line).toMatchObject({ sampleSize: 3, accept: 3, counting: 'nonconformities' })
    await bench.answer(['SCR 2, DENT 1', '0', '0'])
    const finished = await bench.finish()
    expect(finished.finding.lines[0]).toMatchObject({
      nonconforming: 3,
      verdict: 'acceptable',
    })
    expect(describeFirst(finished.finding)).toContain('3 nonconformities')
  })

  it('noted: a fact in its form, without a verdict, and it holds nothing up', async () => {
    const bench = await arrive(
      { ...none, name: 'Certificate', kind: 'noted', details: { noteType: 'date' } },
      { kind: 'fixedNumber', sampleSize: 1, accept: 0 },
    )
    expect((await refusal(bench.answer(['yesterday'])))?.code).toBe('answer_invalid')
    await bench.answer(['2026-02-27'])
    expect(describeFinding((await bench.finish()).finding)).toBe('everything noted, nothing to judge → lot acceptable')
  })

  it('noted: a document is kept by the inspector, named in the answer, and has to be there', async () => {
    const bench = await arrive(
      { ...none, name: 'Certificate', kind: 'noted', details: { noteType: 'document' } },
      { kind: 'fixedNumber', sampleSize: 1, accept: 0 },
    )
    const inspector = await plant.as('inspector')
    const content = Buffer.from('%PDF-1.4 of a certificate').toString('base64')
    const kept = await inspector.call(define.addDocument, { body: { name: 'heat 4711.pdf', mediaType: 'application/pdf', content } })
    expect((await refusal(bench.answer(['the paper lies here'])))?.code).toBe('answer_invalid')
    expect(await refusal(bench.answer([documentText('gone.pdf', goods.part.id)]))).toMatchObject({ code: 'reference_unknown' })
    await bench.answer([documentText(kept.name, kept.id)])
    const { readings } = await bench.finish()
    expect(documentIn(readings[0]?.value ?? '')).toEqual({ name: 'heat 4711.pdf', id: kept.id })
  })

  it('measured in another unit: kept as entered and converted, on the bench and in the report', async () => {
    const bench = await arrive(gap, { kind: 'fixedNumber', sampleSize: 1, accept: 0 })
    expect((await bench.answer(['0.0118 in'])).readings[0]).toMatchObject({ value: '0.29972', entered: '0.0118 in', mark: 'conforming' })
    await bench.finish()
    const csv = await (
      await fetch(`${plant.base}/api/v1/inspections/${bench.id}/report.csv`, { headers: { cookie: (await plant.as('inspector')).cookies } })
    ).text()
    expect(csv).toContain('0.0118 in')
  })

  it('measured as a summary: one cell for all pieces, checked for possibility', async () => {
    const bench = await arrive({ ...gap, details: { recording: 'summary' } }, { kind: 'fixedNumber', sampleSize: 20, accept: 1 })
    expect((await refusal(bench.answer(['n 20, mean 0.30, s 0.40, min 0.27, max 0.33, x 0'])))?.code).toBe('summary_impossible')
    await bench.answer(['n 20, mean 0.30, s 0.02, min 0.26, max 0.36, x 1'])
    expect((await bench.finish()).finding.lines[0]).toMatchObject({ inspected: 20, nonconforming: 1, blank: 0, verdict: 'acceptable' })
  })

  it('measured with a guard band: the past tells a △ as its revision counted it', async () => {
    for (const [countsAsConforming, expected] of [
      [false, [true, false, false]],
      [true, [true, true, false]],
    ] as const) {
      const band = { side: 'inside' as const, width: { kind: 'amount' as const, amount: '0.01' }, countsAsConforming }
      const bench = await arrive({ ...gap, details: { band } }, three)
      await bench.answer(['0.30', '0.35', '0.40'])
      await bench.finish()
      const past = await goods.engineer.call(define.getPast, { params: { id: bench.characteristicId }, query: {} })
      expect(past.lots[0]?.readings.map(({ isConforming }) => isConforming)).toEqual(expected)
    }
  })

  it('measured with a guard band: △ on the way, counted as it was stated', async () => {
    const band = { side: 'inside' as const, width: { kind: 'amount' as const, amount: '0.01' }, countsAsConforming: false }
    const bench = await arrive({ ...gap, details: { band } }, { kind: 'fixedNumber', sampleSize: 1, accept: 0 })
    expect((await bench.answer(['0.35'])).readings[0]?.mark).toBe('marginal')
    expect((await bench.finish()).finding.verdict).toBe('notAcceptable')
  })

  it('is refused with what its kind lacks', async () => {
    const lacking = [
      [{ ...none, name: 'n', kind: 'coded' }, 'answers'],
      [{ ...none, name: 'n', kind: 'counted' }, 'countUnit'],
      [{ ...none, name: 'n', kind: 'noted' }, 'noteType'],
      [{ ...gap, details: { band: { side: 'inside', width: { kind: 'amount', amount: '1' }, countsAsConforming: true } } }, 'band'],
    ] as const
    for (const [fields, field] of lacking) expect((await refusal(create(`L-${field}`, fields as Fields)))?.facts['field']).toBe(field)
  })
})

describe('a sampling rule at the bench', () => {
  it('of two stages asks for the second only when the first leaves it open', async () => {
    const stages = [
      { sampleSize: 3, accept: 0, reject: 2 },
      { sampleSize: 3, accept: 1, reject: 2 },
    ]
    const good = await arrive(gap, { kind: 'stages', stages })
    await good.answer(['0.30', '0.30', '0.30'])
    expect((await good.finish()).finding).toMatchObject({ verdict: 'acceptable' })
    const open = await arrive(gap, { kind: 'stages', stages })
    await open.answer(['0.30', '0.40', '0.30'])
    expect((await refusal(open.finish()))?.facts['missing']).toEqual([{ line: 'Gate gap', blank: 3 }])
    await open.answer(['0.30', '0.30', '0.30'], 4)
    expect(describeFirst((await open.finish()).finding)).toBe('6 inspected, 1 nonconforming, stage 2: Ac 1, Re 2 → acceptable')
  })

  it('by variables judges mean and spread, with every piece inside the limits', async () => {
    const bench = await arrive(gap, { kind: 'variablesPlan', method: 's', sampleSize: 4, k: 1.45, sigma: null })
    await bench.answer(['0.34', '0.33', '0.35', '0.34'])
    const { finding } = await bench.finish()
    expect(finding.verdict).toBe('notAcceptable')
    expect(describeFirst(finding)).toMatch(/estimated outside, M/)
  })

  it('of a detached line judges by the limits of the line, and the library lists the line as detached', async () => {
    const detached = { nominal: null, lower: '0.10', upper: '0.20', fromRevision: 1 }
    const bench = await arrive(gap, { kind: 'fixedNumber', sampleSize: 1, accept: 0 }, { detached })
    expect(bench.line).toMatchObject({ lower: '0.10', upper: '0.20' })
    expect((await bench.answer(['0.15'])).readings[0]?.mark).toBe('conforming')
    const { uses } = await goods.engineer.call(define.getCharacteristic, { params: { id: bench.characteristicId } })
    expect(uses.lines).toMatchObject([{ detached }])
    expect(uses.points).toHaveLength(1)
    expect(uses.parts).toMatchObject([{ code: 'P-1' }])
  })

  it('that need not be answered is skipped with a reason, which stands in the report', async () => {
    const bench = await arrive(gap, three, { isRequired: false })
    await bench.answer(['0.30'])
    expect(await refusal(bench.finish())).toMatchObject({
      code: 'skip_reason_missing',
      facts: { skipped: [{ lineId: bench.line?.id, line: 'Gate gap', blank: 2 }] },
    })
    const lineId = bench.line?.id ?? ''
    expect((await refusal(bench.finish([{ lineId, reason: ' ' }])))?.code).toBe('input_invalid')
    const finished = await bench.finish([
      { lineId, reason: 'gauge being calibrated' },
      { lineId: goods.part.id, reason: 'no such line' },
    ])
    expect(finished.skips).toEqual([{ lineId, reason: 'gauge being calibrated' }])
    // The plant's own list of reasons says how often each was given: for a line here.
    const reasons = { code: 'R-CAL', name: 'gauge being calibrated', purpose: 'skip', isActive: true } as const
    const kept = await goods.engineer.call(define.reasons.create, { body: reasons })
    const used = async () => (await goods.engineer.call(define.reasons.list, { query: { q: kept.code } })).rows[0]?.uses
    expect(await used()).toBe(1)
    const headers = { cookie: (await plant.as('inspector')).cookies }
    const csv = await (await fetch(`${plant.base}/api/v1/inspections/${bench.id}/report.csv`, { headers })).text()
    expect(csv.split('\r\n').filter((row) => row.endsWith('gauge being calibrated'))).toHaveLength(2)
    const inspector = await plant.as('inspector')
    await inspector.call(record.reopenInspection, { params: { id: bench.id }, body: { version: finished.version, reason: 'gauge is back' } })
    await bench.answer(['0.30', '0.31'], 2)
    expect((await bench.finish()).skips).toEqual([])
  })

  it('cannot be detached from a characteristic that must be followed, nor with limits that contradict each other', async () => {
    const made = await create('K-FIX', { ...gap, details: { isAdaptable: false } })
    const line = { characteristicId: made.id, sampling: three, isRequired: true, isDecisive: false }
    const planWith = (code: string, characteristicId: string, lower: string) =>
      goods.engineer.call(define.createPlan, {
        body: { code, name: code, lines: [{ ...line, characteristicId, detached: { nominal: null, lower, upper: '0.2', fromRevision: 1 } }] },
      })
    expect((await refusal(planWith('PX-1', made.id, '0.1')))?.message).toMatch(/must be followed as it is/)
    expect((await refusal(planWith('PX-2', goods.measured.id, '0.3')))?.code).toBe('limits_reversed')
  })
})

describe('the past of a characteristic', () => {
  it('gives the recorded lots with the answers that stand, oldest first, for the part and supplier asked', async () => {
    const bench = await arrive(gap, three)
    await bench.answer(['0.30', '0.40', '0.31'])
    await bench.finish()
    const past = await goods.engineer.call(define.getPast, { params: { id: bench.characteristicId }, query: {} })
    expect(past).toMatchObject({ medianLot: 100, isCut: false, lots: [{ quantity: 100, sampleSize: 3, accept: 0, partCode: 'P-1' }] })
    expect(past.lots[0]?.readings).toEqual([
      { value: '0.30', isConforming: true },
      { value: '0.40', isConforming: false },
      { value: '0.31', isConforming: true },
    ])
    const other = await goods.engineer.call(define.getPast, { params: { id: bench.characteristicId }, query: { supplierId: goods.other.id } })
    expect(other.lots).toEqual([])
  })
})

describe('a plan as an instruction sheet', () => {
  it('is a PDF of the revision asked for', async () => {
    const plan = await goods.plan('PS-1', [{ characteristicId: goods.measured.id }, { characteristicId: goods.judged.id }])
    const get = (query: string) => fetch(`${plant.base}/api/v1/plans/${plan.id}/sheet.pdf${query}`, { headers: { cookie: goods.engineer.cookies } })
    const sheet = await get('?revision=1')
    expect(sheet.headers.get('content-type')).toContain('application/pdf')
    expect(
      Buffer.from(await sheet.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
    expect((await get('?revision=7')).status).toBe(404)
  })
})
