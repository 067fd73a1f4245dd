import { endpoints } from '@nemawashi/contract'
import { planLine } from './plans'
import { day, type Stage } from './stage'

const { attach, define, record, run } = endpoints

/** What is to leave in the next days: each order is read against the drawing before anybody picks it. */
export async function planShipping({ bench, by, master, until }: Stage): Promise<void> {
  const engineer = by('ilse')
  const question = planLine(['C-ISSUE', { kind: 'fixedNumber', sampleSize: 1, accept: 0 }], master.id)
  const plan = await engineer.call(define.createPlan, { body: { code: 'SP-05', name: 'The order, before it is picked', lines: [question] } })
  await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  const at = { operationId: master.id('SHP'), moment: 'beforePicking', subject: 'load', planId: plan.id } as const
  const reach = { partId: master.id('DS-12'), familyId: null, supplierId: null, customerId: master.id('NFR'), holdPlaceId: null }
  await engineer.call(attach.createControlPoint, { body: { ...at, ...reach, isGate: true, responsible: 'Order desk', dueHours: 24 } })
  const leave = (customer: string, orderNumber: string, days: number, lines: readonly (readonly [string, number])[]) =>
    by('dario').call(run.planDispatch, {
      body: {
        customerId: master.id(customer),
        orderNumber,
        leavesOn: new Date(until + days * day).toISOString().slice(0, 10),
        lines: lines.map(([part, quantity]) => ({ partId: master.id(part), quantity })),
      },
    })
  await leave('NFR', '3340', 1, [['DS-12', 40]])
  await leave('HMC', '3341', 3, [['DS-12', 30]])
  // One asks for an issue that is not in stock any more: it is kept back until the customer sends another.
  const [check] = (await leave('NFR', '3342', 2, [['DS-12', 12]])).checks
  const params = { id: check?.id ?? '' }
  const inspector = by('tomek')
  await bench.record(inspector, await inspector.call(record.getInspection, { params }), 1, { code: 'C-ISSUE', share: 1 })
  const { version } = await inspector.call(record.getInspection, { params })
  await inspector.call(record.finishInspection, { params, body: { version } })
}
