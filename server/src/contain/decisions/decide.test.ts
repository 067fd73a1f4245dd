import { endpoints, type AgainRowInput, type DecisionRowInput, type Delivery, type Inspection } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gap, decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { run, record, contain, trace } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

/** A plant whose part has these control points and no others, each with a question of its own. */
async function points(...wanted: { code: string; change?: object }[]): Promise<void> {
  const { rows } = await goods.engineer.call(endpoints.attach.listControlPoints, { query: { state: 'active' } })
  for (const { id, version } of rows) await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id }, body: { version } })
  for (const { code, change } of wanted) {
    const asked = await goods.characteristic(`C-${code}`, gap)
    await goods.point((await goods.plan(code, [{ characteristicId: asked.id }])).id, change)
  }
}
const manager = () => plant.as('qualityManager')
const lotOf = (delivery: Delivery) => delivery.lots[0] as Delivery['lots'][number]
const passport = async (id: string) => (await manager()).call(trace.getPassport, { params: { id } })
const standingsOf = async (id: string) => {
  const sums: Record<string, number> = {}
  for (const { standing, quantity } of (await passport(id)).balances) sums[standing] = (sums[standing] ?? 0) + quantity
  return sums
}
const load = async (id: string) => (await manager()).call(record.getInspection, { params: { id } })
const decide = async ({ id, version }: Inspection, rows: DecisionRowInput[]) =>
  (await manager()).call(contain.decide, { params: { id }, body: { version, password, rows } })
const row = (quantity: number, disposition: DecisionRowInput['disposition']): DecisionRowInput => ({
  containerId: null,
  quantity,
  disposition,
  reason: 'because',
})
const again = async (lotId: string, rows: Partial<AgainRowInput>[], followsId?: string, word = password) => {
  const client = await manager()
  const { decisions } = await client.call(contain.listDecisions, { params: { id: lotId } })
  const { balances } = await passport(lotId)
  return client.call(contain.decideAgain, {
    params: { id: lotId },
    body: {
      followsId: followsId ?? decisions.at(-1)?.id ?? '',
      password: word,
      rows: rows.map((part) => {
        const spot = balances.find(({ standing }) => standing === (part.standing ?? 'quarantined'))
        return {
          containerId: null,
          placeId: spot?.placeId ?? '',
          standing: 'quarantined',
          quantity: 1,
          disposition: 'scrap',
          reason: 'because',
          ...part,
        } as AgainRowInput
      }),
    },
  })
}

describe('a concession', () => {
  it('stays one in ledger, passport and report, when another gate of the lot is decided later', async () => {
    await points({ code: 'PL-A' }, { code: 'PL-B' })
    const lot = lotOf(await receive(plant, goods, { quantity: 100 }))
    const [first, second] = lot.inspections as unknown as [{ id: string }, { id: string }]
    await decide(await inspect(plant, first.id, 1), [row(40, 'concession'), row(60, 'scrap')])
    expect(await standingsOf(lot.id)).toEqual({ onHold: 40, scrapped: 60 })
    await decide(await inspect(plant, second.id), [row(40, 'release')])
    const { movements, underConcession, events } = await passport(lot.id)
    expect(movements.map(({ kind, quantity }) => [kind, quantity])).toEqual([
      ['received', 100],
      ['scrap', 60],
      ['concession', 40],
    ])
    expect(underConcession).toBe(40)
    expect(events.filter(({ kind }) => kind === 'decided').map(({ detail }) => detail)[0]).toContain('use as is (concession) 40')
    expect((await load(first.id)).decision?.rows.map(({ disposition }) => disposition)).toEqual(['concession', 'scrap'])
  })

  it('is what using a failed lot is called: it cannot be plainly released, by its inspection or anew', async () => {
    await points({ code: 'PL-C' })
    const lot = lotOf(await receive(plant, goods, { quantity: 10 }))
    const inspection = await inspect(plant, lot.inspections[0]?.id ?? '', 1)
    expect(await refusal(decide(inspection, [row(10, 'release')]))).toMatchObject({ status: 422, code: 'release_is_concession' })
    await decide(inspection, [row(10, 'quarantine')])
    expect(await refusal(again(lot.id, [{ quantity: 10, disposition: 'release' }]))).toMatchObject({ code: 'release_is_concession' })
  })
})

describe('an inspection that is no gate', () => {
  it('holds what is still there when it fails, put away or not, and put-away waits for the decision', async () => {
    await points({ code: 'PL-D', change: { isGate: false } })
    const lot = lotOf(await receive(plant, goods, { quantity: 50 }))
    const clerk = await plant.as('receivingClerk')
    const move = (quantity: number) =>
      clerk.call(run.putAway, {
        params: { id: lot.id },
        body: { containerId: null, fromPlaceId: lot.balances[0]?.placeId ?? '', quantity, toPlaceId: goods.places.store.id },
      })
    await move(20)
    const failed = await inspect(plant, lot.inspections[0]?.id ?? '', 1)
    expect(failed).toMatchObject({ holds: true, isGate: false })
    expect((await passport(lot.id)).balances.map(({ quantity, standing }) => [quantity, standing]).sort()).toEqual([
      [20, 'onHold'],
      [30, 'onHold'],
    ])
    expect(await refusal(move(30))).toMatchObject({ code: 'gate_closed' })
    // The plant's own list of reasons says how often each was given.
    const kept = { code: 'R-TEST', name: 'said in a test', purpose: 'decision', isActive: true } as const
    await goods.engineer.call(endpoints.define.reasons.create, { body: kept })
    const used = async () => Number((await goods.engineer.call(endpoints.define.reasons.list, { query: { q: 'R-TEST' } })).rows[0]?.uses)
    const before = await used()
    await decideAll(plant, failed, 'returnToSupplier')
    expect(await used()).toBeGreaterThan(before)
    expect((await passport(lot.id)).events.map(({ kind }) => kind)).toContain('held')
    expect(await standingsOf(lot.id)).toEqual({ returned: 50 })
  })

  it('only notes a failure where its control point says so', async () => {
    await points({ code: 'PL-E', change: { isGate: false, onFailure: 'note' } })
    const lot = lotOf(await receive(plant, goods, { quantity: 50 }))
    const failed = await inspect(plant, lot.inspections[0]?.id ?? '', 1)
    expect(failed).toMatchObject({ holds: false, onFailure: 'note', finding: { verdict: 'notAcceptable' } })
    expect(await standingsOf(lot.id)).toEqual({ released: 50 })
  })
})

describe('what was decided', () => {
  it('can be decided on again, in any standing that is still in the plant, by a decision that names the one before', async () => {
    await points({ code: 'PL-F' })
    const lot = lotOf(await receive(plant, goods, { quantity: 100 }))
    await decide(await inspect(plant, lot.inspections[0]?.id ?? '', 1), [row(60, 'quarantine'), row(30, 'concession'), row(10, 'scrap')])
    const first = (await (await manager()).call(contain.listDecisions, { params: { id: lot.id } })).decisions.at(-1)
    const { decision } = await again(lot.id, [
      { quantity: 50, disposition: 'returnToSupplier' },
      { quantity: 10, disposition: 'concession' },
      { standing: 'released', quantity: 5, disposition: 'scrap' },
      { standing: 'scrapped', quantity: 2, disposition: 'quarantine' },
    ])
    expect(decision).toMatchObject({ followsId: first?.id, inspectionId: null, meaning: 'split' })
    expect(await standingsOf(lot.id)).toEqual({
      returned: 50,
      released: 35,
      scrapped: 13,
      quarantined: 2,
    })
    const story = await passport(lot.id)
    expect(story.events.at(-1)).toMatchObject({ kind: 'decidedAgain', seal: { meaning: 'split' } })
    expect(story.underConcession).toBe(35)
    expect(await refusal(again(lot.id, [{ quantity: 1 }], first?.id))).toMatchObject({ status: 409, code: 'decision_superseded' })
  })

  it('is refused with everything that stands in the way at once, and before the password is looked at', async () => {
    await points({ code: 'PL-G' })
    const lot = lotOf(await receive(plant, goods, { quantity: 10 }))
    await decide(await inspect(plant, lot.inspections[0]?.id ?? '', 1), [row(10, 'quarantine')])
    const bad = [
      { quantity: 11, disposition: 'scrap' as const },
      { quantity: 0.5, disposition: 'scrap' as const, reason: '' },
      { quantity: 1, disposition: 'release' as const },
    ]
    const found = await refusal(again(lot.id, bad, undefined, 'not the password'))
    expect((found?.facts['problems'] as { row: number; code: string }[]).map(({ row: at, code }) => [at, code])).toEqual([
      [1, 'reason_missing'],
      [2, 'release_is_concession'],
      [0, 'movement_exceeds_balance'],
      [1, 'quantity_invalid'],
      [2, 'movement_exceeds_balance'],
    ])
    expect((await refusal(again(lot.id, [{ quantity: 1 }], undefined, 'not the password')))?.code).toBe('password_wrong')
    const inspector = await plant.as('inspector')
    const asInspector = inspector.call(contain.decideAgain, { params: { id: lot.id }, body: { followsId: lot.id, password, rows: [] } })
    expect((await refusal(asInspector))?.code).toBe('role_missing')
  })

  it('is answered once and again under the same key, also when its answer was lost', async () => {
    await points({ code: 'PL-H' })
    const lot = lotOf(await receive(plant, goods, { quantity: 10 }))
    const inspection = await inspect(plant, lot.inspections[0]?.id ?? '')
    const ask = async () =>
      (await manager()).call(
        contain.decide,
        { params: { id: inspection.id }, body: { version: inspection.version, password, rows: [row(10, 'release')] } },
        'key of a decision',
      )
    expect(await ask()).toEqual(await ask())
  })
})

describe('the check before a signature', () => {
  it('names every row at once, and the place that is missing', async () => {
    await points({ code: 'PL-I' })
    const lot = lotOf(await receive(plant, goods, { quantity: 10 }))
    const inspection = await inspect(plant, lot.inspections[0]?.id ?? '', 1)
    const { scrap } = goods.places
    // The page refuses it: pieces lie there. A plant that was set up without one comes to the same.
    await plant.kernel.database.writer.connection.rows(`UPDATE place SET purpose = 'dock' WHERE id = ?`, [scrap.id])
    const rows = [row(4, 'release'), { ...row(4, 'quarantine'), reason: '' }, row(1, 'scrap')]
    const { problems } = await (await manager()).call(contain.checkDecision, { params: { id: inspection.id }, body: { rows } })
    expect(problems.map(({ row: at, code }) => [at, code])).toEqual([
      [0, 'release_is_concession'],
      [1, 'reason_missing'],
      [null, 'place_missing'],
      [null, 'split_does_not_add_up'],
    ])
    expect((await load(inspection.id)).state).toBe('finished')
  })
})

describe('an inspection opened by mistake', () => {
  it('is cancelled with a reason; what only it held is free, what another one holds stays', async () => {
    await points({ code: 'PL-J' }, { code: 'PL-K' })
    const lot = lotOf(await receive(plant, goods, { quantity: 20 }))
    const [first, second] = lot.inspections as unknown as [{ id: string }, { id: string }]
    const cancel = async (id: string, who: 'inspector' | 'qualityManager' = 'qualityManager') =>
      (await plant.as(who)).call(record.cancelInspection, { params: { id }, body: { version: 1, reason: 'twice the same' } })
    expect((await refusal(cancel(first.id, 'inspector')))?.code).toBe('role_missing')
    expect(await cancel(first.id)).toMatchObject({ state: 'cancelled', cancelReason: 'twice the same', cancelledByName: 'qualityManager' })
    expect(await standingsOf(lot.id)).toEqual({ onHold: 20 })
    expect((await refusal(cancel(first.id)))?.code).toMatch(/stale_version|inspection_closed/)
    await cancel(second.id)
    expect(await standingsOf(lot.id)).toEqual({ released: 20 })
    expect((await passport(lot.id)).events.filter(({ kind }) => kind === 'cancelled')).toHaveLength(2)
    const delivery = await (await plant.as('receivingClerk')).call(run.listDeliveries, {})
    expect(delivery.rows[0]?.openInspections).toBe(0)
  })
})

describe('a container', () => {
  it('has a label that no other one in the plant has: its own, or the next number', async () => {
    const labelled = async (...labels: (string | null)[]) => {
      const containers = labels.map((label) => ({ label, quantity: 5 }))
      const { lots } = await receive(plant, goods, { quantity: 5 * labels.length, containers })
      return lots[0]?.balances.map(({ containerLabel }) => containerLabel)
    }
    expect(await labelled('K-000002', null, null)).toEqual(['K-000002', 'K-000001', 'K-000003'])
    // Nor does the plant give a label that a later line names.
    const line = (supplierLot: string, label: string | null) => ({
      partId: goods.part.id,
      supplierLot,
      quantity: 5,
      containers: [{ label, quantity: 5 }],
    })
    const { lots } = await (
      await plant.as('receivingClerk')
    ).call(run.receiveDelivery, {
      body: { supplierId: goods.supplier.id, orderNumber: '1', isAnother: true, lines: [line('a', null), line('b', 'K-000004')] },
    })
    expect(lots.map(({ balances }) => balances[0]?.containerLabel)).toEqual(['K-000005', 'K-000004'])
    expect(await refusal(labelled('K-000002'))).toMatchObject({ code: 'already_exists', message: expect.stringMatching(/lot L-\d+ has it/) })
  })
})

describe('the same lot of the same order', () => {
  it('a second time is asked about, and taken when it is said to be another one', async () => {
    await points()
    const clerk = await plant.as('receivingClerk')
    const body = (isAnother: boolean) => ({
      supplierId: goods.other.id,
      orderNumber: '9000',
      isAnother,
      lines: [{ partId: goods.part.id, supplierLot: 'S-9', quantity: 5, containers: [] }],
    })
    const first = await clerk.call(run.receiveDelivery, { body: body(false) })
    expect(await refusal(clerk.call(run.receiveDelivery, { body: body(false) }))).toMatchObject({
      status: 409,
      code: 'already_received',
      facts: { delivery: first.code },
    })
    expect(await refusal(clerk.call(run.receiveDelivery, { body: body(true) }))).toBeNull()
  })
})

describe('what is held', () => {
  it('is found by how long it has been: each lot in one of the groups that the first page counts', async () => {
    await points({ code: 'PL-AGE' })
    await receive(plant, goods, { quantity: 3 })
    await plant.later(new Date(plant.clock.time + 2 * 86_400_000).toISOString())
    await receive(plant, goods, { quantity: 4 })
    const held = async (query: object) => (await (await manager()).call(contain.listHeld, { query })).total
    const { heldByAge } = await (await manager()).call(trace.getToday, {})
    for (const { fromDays, untilDays, lots } of heldByAge) expect(await held({ fromDays, ...(untilDays === null ? {} : { untilDays }) })).toBe(lots)
    expect(heldByAge.reduce((sum, { lots }) => sum + lots, 0)).toBe(await held({}))
    expect(heldByAge.find(({ fromDays }) => fromDays === 1)?.lots).toBeGreaterThan(0)
  })
})
