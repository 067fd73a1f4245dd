import { endpoints, type MoveDue, type RuleInput } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { attach, define, record, run, trace } = endpoints
let plant: Plant
let goods: Stock

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

const rule = (name: string, toPlaceId: string, change: Partial<RuleInput> = {}): RuleInput => ({
  id: null,
  name,
  partId: null,
  familyId: null,
  supplierId: null,
  standing: null,
  moment: 'always',
  fromPlaceId: null,
  toPlaceId,
  ...change,
})
async function save(...rules: RuleInput[]) {
  const { version } = await goods.engineer.call(run.getPutAwayRules, {})
  return goods.engineer.call(run.savePutAwayRules, { body: { rules, version } })
}
const due = async () => (await (await plant.as('receivingClerk')).call(run.getMovesDue, {})).rows
const move = async (due: MoveDue, change: object = {}) => {
  const { lotId, containerId, placeId, standing, quantity, toPlaceId, ruleId } = due
  const body = { lotId, containerId, fromPlaceId: placeId, standing, quantity, toPlaceId, ruleId, ...change }
  return (await plant.as('receivingClerk')).call(run.transfer, { body })
}
const lie = async (lotId: string) =>
  (await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lotId } })).balances.map(
    ({ placeName, standing, quantity }) => `${quantity} ${standing} ${placeName}`,
  )

describe('the list of rules', () => {
  it('is kept in its order, and a save on old knowledge is refused', async () => {
    const first = await save(rule('Held', goods.places.cage.id, { standing: 'onHold' }), rule('All', goods.places.store.id))
    expect(first.rules.map(({ name }) => name)).toEqual(['Held', 'All'])
    const [held, all] = first.rules
    const swapped = await save(
      { ...rule('All', goods.places.store.id), id: all?.id ?? null },
      { ...rule('Held', goods.places.cage.id, { standing: 'onHold' }), id: held?.id ?? null },
    )
    expect(swapped.rules.map(({ id }) => id)).toEqual([all?.id, held?.id])
    const late = goods.engineer.call(run.savePutAwayRules, { body: { rules: [], version: first.version } })
    expect((await refusal(late))?.code).toBe('stale_version')
  })

  it('refuses rules that send pieces round, by the names of the places, and a place that nothing is put into', async () => {
    const { dock, bay, scrap } = goods.places
    const round = save(rule('There', bay.id, { fromPlaceId: dock.id }), rule('Back', dock.id, { fromPlaceId: bay.id, partId: goods.part.id }))
    expect(await refusal(round)).toMatchObject({ code: 'rules_in_a_circle', facts: { placeNames: ['BAY', 'DOCK', 'BAY'] } })
    expect((await refusal(save(rule('Away', scrap.id))))?.code).toBe('place_not_for')
    expect((await refusal(save(rule('Both', bay.id, { partId: goods.part.id, familyId: goods.family.id }))))?.code).toBe('input_invalid')
  })
})

describe('pieces', () => {
  it('arrive where the rules say, and what lies elsewhere is to be moved, each transfer with its number', async () => {
    await save(rule('Free at once', goods.places.bay.id, { moment: 'arrival' }))
    const [lot] = (await receive(plant, goods, { quantity: 40 })).lots
    expect(await lie(lot?.id ?? '')).toEqual(['40 released BAY'])
    await save(rule('Free', goods.places.store.id, { standing: 'released' }))
    const [first, ...others] = await due()
    expect([first, others]).toMatchObject([{ lotCode: lot?.code, placeName: 'BAY', toPlaceName: 'STORE', ruleName: 'Free', quantity: 40 }, []])
    if (!first) return
    expect(await move(first, { quantity: 15 })).toMatchObject({ code: 'T-000001', opened: [] })
    expect(await lie(lot?.id ?? '')).toEqual(['25 released BAY', '15 released STORE'])
    expect((await refusal(move(first)))?.code).toBe('movement_exceeds_balance')
    await move(first, { quantity: 25 })
    expect(await due()).toEqual([])
    const { rows } = await (await plant.as('auditor')).call(run.listTransfers, { query: {} })
    expect(rows[0]).toMatchObject({ code: 'T-000002', ruleName: 'Free', fromPlaceName: 'BAY', toPlaceName: 'STORE' })
    const movements = await (await plant.as('auditor')).call(run.listMovements, { query: { lotId: lot?.id ?? '', sort: 'at', dir: 'asc' } })
    expect(movements.rows.map(({ kind }) => kind)).toEqual(['received', 'putAway', 'putAway'])
  })

  it('that are held go where the rule for them says, stay held, and are never stored', async () => {
    const point = await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }])).id, { holdPlaceId: null })
    await save(rule('Held', goods.places.cage.id, { standing: 'onHold' }), rule('All', goods.places.store.id))
    const [lot] = (await receive(plant, goods, { quantity: 20 })).lots
    expect(await lie(lot?.id ?? '')).toEqual(['20 onHold CAGE'])
    const held = { lotId: lot?.id ?? '', containerId: null, placeId: goods.places.cage.id, standing: 'onHold', quantity: 20 } as MoveDue
    expect((await refusal(move({ ...held, toPlaceId: goods.places.store.id, ruleId: null as never })))?.code).toBe('gate_closed')
    await move({ ...held, toPlaceId: goods.places.bay.id, ruleId: null as never })
    expect(await lie(lot?.id ?? '')).toEqual(['20 onHold BAY'])
    // Days on hold go on, wherever they are moved.
    const [{ since, heldSince } = {}] = (await (await plant.as('auditor')).call(run.listStock, { query: { q: lot?.code } })).rows
    expect(String(heldSince) < String(since)).toBe(true)
    // Somebody who calls them free does not get them into the store.
    expect(
      (await refusal(move({ ...held, placeId: goods.places.bay.id, standing: 'released', toPlaceId: goods.places.store.id, ruleId: null as never })))
        ?.code,
    ).toBe('gate_closed')
    // A decision sends what it quarantines where the rules say.
    await save(rule('Set aside', goods.places.bay.id, { standing: 'quarantined' }))
    await decideAll(plant, await inspect(plant, lot?.inspections[0]?.id ?? '', 1), 'quarantine')
    expect(await lie(lot?.id ?? '')).toEqual(['20 quarantined BAY'])
    await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
  })

  it('that are held may be taken to a store where all that holds them lets it, by the rule of put-away', async () => {
    const plan = await goods.plan('PL-USE', [{ characteristicId: goods.measured.id }])
    await goods.under([{ planId: plan.id, change: { holdPlaceId: goods.places.bay.id, keepsFrom: 'use' } }], async () => {
      const [lot] = (await receive(plant, goods, { quantity: 20 })).lots
      const held = { lotId: lot?.id ?? '', containerId: null, placeId: goods.places.bay.id, standing: 'onHold', quantity: 20 } as MoveDue
      await move({ ...held, toPlaceId: goods.places.store.id, ruleId: null as never })
      expect(await lie(lot?.id ?? '')).toEqual(['20 onHold STORE'])
      expect((await refusal(move({ ...held, placeId: goods.places.store.id, toPlaceId: goods.places.scrap.id, ruleId: null as never })))?.code).toBe(
        'place_not_for',
      )
    })
  })

  it('that are held without a gate are taken to no store', async () => {
    const plan = await goods.plan('PL-NO-GATE', [{ characteristicId: goods.measured.id }])
    await goods.under([{ planId: plan.id, change: { isGate: false } }], async () => {
      const [lot] = (await receive(plant, goods, { quantity: 20 })).lots
      await inspect(plant, lot?.inspections[0]?.id ?? '', 3)
      const { balances } = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lot?.id ?? '' } })
      expect(balances).toMatchObject([{ standing: 'onHold', quantity: 20 }])
      const { placeId = '' } = balances[0] ?? {}
      const held = { lotId: lot?.id ?? '', containerId: null, placeId, standing: 'onHold', quantity: 20 } as MoveDue
      expect((await refusal(move({ ...held, toPlaceId: goods.places.store.id, ruleId: null as never })))?.code).toBe('gate_closed')
    })
  })

  it('are inspected where the way of their part has a transfer, and a gate holds what came', async () => {
    const transferStep = await goods.make(define.operations, { code: 'TRF', name: 'To the annex', kind: 'transfer' })
    const part = await goods.make(define.parts, {
      code: 'P-T',
      name: 'Part that travels',
      revision: 'A',
      unit: 'piece',
      tracking: 'lot',
      familyId: null,
      putAwayPlaceId: goods.places.store.id,
      operationIds: [goods.receiving.id, transferStep.id],
    })
    await goods.point((await goods.plan('PL-T', [{ characteristicId: goods.judged.id }])).id, { operationId: transferStep.id, partId: part.id })
    await save()
    const [lot] = (await receive(plant, { ...goods, part }, { quantity: 30 })).lots
    const free = { lotId: lot?.id ?? '', containerId: null, placeId: goods.places.dock.id, standing: 'released', quantity: 12 } as MoveDue
    const { opened } = await move({ ...free, toPlaceId: goods.places.bay.id, ruleId: null as never })
    expect(opened).toMatchObject([{ planName: 'Plan PL-T' }])
    expect(await lie(lot?.id ?? '')).toEqual(['18 released DOCK', '12 onHold BAY'])
    const inspection = await (await plant.as('inspector')).call(record.getInspection, { params: { id: opened[0]?.id ?? '' } })
    expect([inspection.lotSize, inspection.operationName]).toEqual([12, 'To the annex'])
  })

  it('on the line and at the door are moved by their order and their dispatch alone', async () => {
    const line = await goods.make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: true })
    const [lot] = (await receive(plant, goods, { quantity: 5 })).lots
    const due = { lotId: lot?.id ?? '', containerId: null, placeId: goods.places.dock.id, standing: 'released', quantity: 5 } as MoveDue
    expect((await refusal(move({ ...due, toPlaceId: line.id, ruleId: null as never })))?.code).toBe('place_not_for')
  })
})

describe('the stock on a past day', () => {
  it('is what lay where then; at this moment it is what the balances say', async () => {
    const clerk = await plant.as('receivingClerk')
    const now = () => new Date(plant.clock.time).toISOString()
    const at = async (lotCode: string, instant?: string) =>
      (await clerk.call(run.listStock, { query: { q: lotCode, ...(instant === undefined ? {} : { at: instant }) } })).rows.map(
        ({ quantity, standing, placeName }) => `${quantity} ${standing} ${placeName}`,
      )
    const before = now()
    const [lot] = (await receive(plant, goods, { quantity: 50 })).lots
    const code = lot?.code ?? ''
    const arrived = now()
    const due = { lotId: lot?.id ?? '', containerId: null, placeId: goods.places.dock.id, standing: 'released', quantity: 20 } as MoveDue
    await move({ ...due, toPlaceId: goods.places.bay.id, ruleId: null as never })
    expect(await at(code, before)).toEqual([])
    expect(await at(code, arrived)).toEqual(['50 released DOCK'])
    expect((await at(code)).sort()).toEqual(['20 released BAY', '30 released DOCK'])
    const all = async (query: object) =>
      (await clerk.call(run.listStock, { query: { sort: 'lotCode', limit: 200, ...query } })).rows.map(({ looksLike: _, ...row }) => row)
    expect(await all({ at: now() })).toEqual(await all({}))
  })
})
