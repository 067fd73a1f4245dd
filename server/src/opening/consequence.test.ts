import { endpoints, type Delivery } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { burr, decideAll, inspect, planLine, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let quick = ''
let other = ''
let more = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  quick = (await goods.plan('PL-QUICK', [{ characteristicId: goods.judged.id }])).id
  other = (await goods.plan('PL-OTHER', [{ characteristicId: goods.measured.id }])).id
  more = (await goods.plan('PL-MORE', [{ characteristicId: (await goods.characteristic('C-MORE', burr)).id }])).id
})
afterAll(() => plant.stop())

const idOf = ({ lots }: Delivery, planName: string) => lots[0]?.inspections.find((entry) => entry.planName === planName)?.id ?? ''
const now = async ({ id }: Delivery) => (await plant.as('receivingClerk')).call(run.getDelivery, { params: { id } })
const standings = ({ lots }: Delivery) => lots[0]?.balances.map(({ standing, quantity }) => `${quantity} ${standing}`)
const seen = async (id: string) => (await plant.as('inspector')).call(record.getInspection, { params: { id } })

describe('what conforms', () => {
  it('is free with its finding where the control point says so: nobody seals it, and it can be put away', async () => {
    await goods.under([{ planId: quick, change: { whenConforming: 'free' } }], async () => {
      const delivery = await receive(plant, goods)
      expect(standings(delivery)).toEqual(['100 onHold'])
      const done = await inspect(plant, idOf(delivery, 'Plan PL-QUICK'))
      expect(done).toMatchObject({ state: 'decided', decision: null, whenConforming: 'free', finding: { verdict: 'acceptable' } })
      const after = await now(delivery)
      expect([standings(after), after.lots[0]?.gateReasons, after.isFree]).toEqual([['100 released'], [], true])
      const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: after.lots[0]?.id ?? '' } })
      expect(passport.movements.at(-1)).toMatchObject({ kind: 'release', quantity: 100 })
      expect(passport.events.map(({ kind }) => kind)).toEqual(['received', 'inspectionOpened', 'inspectionStarted', 'inspectionFinished', 'freed'])
      expect(passport.events.at(-1)).toMatchObject({ title: 'Free, 100', standingsAfter: { released: 100 } })
    })
  })

  it('stays on hold while another inspection holds it, and keeps a concession that was made meanwhile', async () => {
    await goods.under([{ planId: quick, change: { whenConforming: 'free' } }, { planId: other }], async () => {
      const delivery = await receive(plant, goods, { quantity: 40 })
      await decideAll(plant, await inspect(plant, idOf(delivery, 'Plan PL-OTHER'), 1), 'concession')
      expect(standings(await now(delivery))).toEqual(['40 onHold'])
      await inspect(plant, idOf(delivery, 'Plan PL-QUICK'))
      const after = await now(delivery)
      expect(standings(after)).toEqual(['40 released'])
      const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: after.lots[0]?.id ?? '' } })
      expect(passport.underConcession).toBe(40)
    })
    await goods.under([{ planId: quick, change: { whenConforming: 'free' } }, { planId: other }], async () => {
      const delivery = await receive(plant, goods, { quantity: 40 })
      await inspect(plant, idOf(delivery, 'Plan PL-QUICK'))
      expect(standings(await now(delivery))).toEqual(['40 onHold'])
    })
  })

  it('waits for a decision when it does not conform', async () => {
    await goods.under([{ planId: quick, change: { whenConforming: 'free', advice: 'Set the whole box aside' } }], async () => {
      const delivery = await receive(plant, goods)
      const failed = await inspect(plant, idOf(delivery, 'Plan PL-QUICK'), 1)
      expect(failed).toMatchObject({ state: 'finished', advice: 'Set the whole box aside' })
      expect(standings(await now(delivery))).toEqual(['100 onHold'])
    })
  })
})

it('what fails is asked more of, where the control point names a plan for it: with a hold of its own, once', async () => {
  await goods.under([{ planId: quick, change: { followPlanId: more } }], async () => {
    const good = await receive(plant, goods)
    await inspect(plant, idOf(good, 'Plan PL-QUICK'))
    expect((await now(good)).lots[0]?.inspections).toHaveLength(1)
    const delivery = await receive(plant, goods)
    const failed = await inspect(plant, idOf(delivery, 'Plan PL-QUICK'), 1)
    expect(failed.followUps).toMatchObject([{ planName: 'Plan PL-MORE', state: 'toDo' }])
    await decideAll(plant, failed, 'concession')
    expect(standings(await now(delivery))).toEqual(['100 onHold'])
    await decideAll(plant, await inspect(plant, failed.followUps[0]?.id ?? ''), 'release')
    expect(standings(await now(delivery))).toEqual(['100 released'])
  })
})

it('a load that fails is asked more of as a load, and holds what it brought until both are decided', async () => {
  await goods.under([{ planId: quick, change: { subject: 'load', partId: null, followPlanId: more } }], async () => {
    const delivery = await receive(plant, goods)
    const failed = await inspect(plant, delivery.load.inspections[0]?.id ?? '', 1)
    expect(failed.followUps).toMatchObject([{ planName: 'Plan PL-MORE' }])
    const following = await inspect(plant, failed.followUps[0]?.id ?? '')
    expect(following).toMatchObject({ subjectKind: 'load', lotCode: `load ${delivery.code}` })
    const onLot = async (id: string) =>
      (await plant.as('qualityManager')).call(record.getInspection, { params: { id }, query: { lotId: delivery.lots[0]?.id } })
    await decideAll(plant, await onLot(failed.id), 'concession')
    expect(standings(await now(delivery))).toEqual(['100 onHold'])
    await decideAll(plant, await onLot(following.id), 'release')
    expect(standings(await now(delivery))).toEqual(['100 released'])
  })
})

it('what fails is told to whom the control point names, on their first page, until they have looked at it', async () => {
  const manager = await plant.as('qualityManager')
  const { rows: people } = await manager.call(endpoints.people.listPeople, { query: { q: 'qualityManager' } })
  const tells = [people[0]?.id ?? '']
  await goods.under([{ planId: quick, change: { tells, advice: 'Call the supplier' } }], async () => {
    await inspect(plant, idOf(await receive(plant, goods), 'Plan PL-QUICK'))
    expect((await manager.call(record.listNotifications, { query: {} })).total).toBe(0)
    const { code, id } = await inspect(plant, idOf(await receive(plant, goods), 'Plan PL-QUICK'), 1)
    const { rows } = await manager.call(record.listNotifications, { query: {} })
    expect(rows).toMatchObject([{ inspectionId: id, code, planName: 'Plan PL-QUICK', advice: 'Call the supplier' }])
    const params = { id: rows[0]?.id ?? '' }
    const inspector = await plant.as('inspector')
    expect((await inspector.call(record.listNotifications, { query: {} })).total).toBe(0)
    expect((await refusal(inspector.call(record.markNotificationRead, { params })))?.code).toBe('not_found')
    await manager.call(record.markNotificationRead, { params })
    await manager.call(record.markNotificationRead, { params })
    expect((await manager.call(record.listNotifications, { query: {} })).total).toBe(0)
  })
  const nobody = '01900000-0000-7000-8000-000000000000'
  expect((await refusal(goods.point(quick, { tells: [nobody] })))?.facts).toMatchObject({ field: 'tells.0' })
})

describe('a quick question', () => {
  it('is answered by the clerk where the goods arrive, for all of its sample; a failure holds as any', async () => {
    await goods.under([{ planId: quick, change: { answeredAt: 'spot', whenConforming: 'free' } }], async () => {
      const clerk = await plant.as('receivingClerk')
      const answer = async (delivery: Delivery, isConforming: boolean) => {
        const { id, version, lines } = await seen(idOf(delivery, 'Plan PL-QUICK'))
        const answers = lines.map((line) => ({ lineId: line.id, isConforming }))
        return clerk.call(record.answerOnSpot, { params: { id }, body: { version, answers } })
      }
      const good = await receive(plant, goods)
      expect(good.lots[0]?.inspections[0]?.answeredAt).toBe('spot')
      expect(await answer(good, true)).toMatchObject({ state: 'decided', finishedByName: 'receivingClerk' })
      expect(standings(await now(good))).toEqual(['100 released'])
      const bad = await receive(plant, goods)
      expect(await answer(bad, false)).toMatchObject({ state: 'finished', finding: { verdict: 'notAcceptable' } })
      expect((await refusal(answer(bad, true)))?.code).toBe('inspection_closed')
      expect(standings(await now(bad))).toEqual(['100 onHold'])
    })
  })

  it('belongs to the bench once its plan was given a line that is measured', async () => {
    await goods.under([{ planId: quick, change: { answeredAt: 'spot' } }], async () => {
      const { engineer, judged, measured } = goods
      const plan = await engineer.call(endpoints.define.getPlan, { params: { id: quick } })
      const lines = [planLine(judged.id), planLine(measured.id)]
      const draft = await engineer.call(endpoints.define.revisePlan, { params: { id: quick }, body: { version: plan.version } })
      const saved = await engineer.call(endpoints.define.updatePlan, {
        params: { id: quick },
        body: { version: draft.version, name: draft.name, lines },
      })
      await engineer.call(endpoints.define.releasePlan, { params: { id: quick }, body: { version: saved.version } })
      expect((await receive(plant, goods)).lots[0]?.inspections[0]?.answeredAt).toBe('bench')
    })
  })

  it('is judged, at receiving, and nothing else; what belongs to the bench is not answered on the spot', async () => {
    expect(await refusal(goods.point(other, { answeredAt: 'spot' }))).toMatchObject({ code: 'not_quick', facts: { field: 'answeredAt' } })
    expect((await refusal(goods.point(quick, { answeredAt: 'spot', moment: 'announced', subject: 'load' })))?.code).toBe('not_quick')
    await goods.under([{ planId: quick }], async () => {
      const delivery = await receive(plant, goods)
      const { id, version, lines } = await seen(idOf(delivery, 'Plan PL-QUICK'))
      const body = { version, answers: lines.map((line) => ({ lineId: line.id, isConforming: true })) }
      const refused = async (who: 'inspector' | 'receivingClerk') =>
        (await refusal((await plant.as(who)).call(record.answerOnSpot, { params: { id }, body })))?.code
      expect([await refused('inspector'), await refused('receivingClerk')]).toEqual(['not_on_spot', 'role_missing'])
    })
  })
})
