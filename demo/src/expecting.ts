import { endpoints, noLoad } from '@nemawashi/contract'
import { day, type Stage } from './stage'

const { run } = endpoints

/** What is ordered and on its way by today: an order that came in part, one that is announced, and a lorry at the dock that waits for its check. */
export async function expectThings({ by, master, until }: Stage): Promise<void> {
  const clerk = by('dario')
  const inDays = (days: number) => new Date(until + days * day).toISOString().slice(0, 10)
  const order = async (supplier: string, orderNumber: string, contract: string, lines: readonly (readonly [string, number, number])[]) => {
    const body = {
      supplierId: master.id(supplier),
      orderNumber,
      contract,
      lines: lines.map(([part, quantity, days]) => ({ partId: master.id(part), quantity, dueOn: inDays(days) })),
    }
    return clerk.call(run.createPurchaseOrder, { body })
  }
  // Half of what was ordered with the delivery that came last.
  const [last] = (await clerk.call(run.listDeliveries, { query: { limit: 1 } })).rows
  const came = await clerk.call(run.getDelivery, { params: { id: last?.id ?? '' } })
  const lines = came.lots.map(({ partId, quantity }) => ({ partId, quantity: quantity * 2, dueOn: inDays(9) }))
  await clerk.call(run.createPurchaseOrder, { body: { supplierId: came.supplierId, orderNumber: came.orderNumber, contract: 'K-26-04', lines } })

  const bars = await order('MVM', '4301', 'K-26-11', [
    ['BS-7075-12', 240, 0],
    ['BS-7075-16', 180, 0],
  ])
  const springs = await order('TFS', '4302', '', [['SP-50', 800, 1]])
  await order('EBS', '4303', 'K-26-07', [
    ['SD-18', 600, 5],
    ['SD-26', 400, 12],
  ])
  const announced = (order: typeof bars, expectedOn: string, load: typeof noLoad) =>
    clerk.call(run.announce, {
      body: {
        supplierId: order.supplierId,
        orderNumber: order.orderNumber,
        expectedOn,
        load,
        lines: order.lines.map(({ partId, quantity }) => ({ partId, quantity, supplierLot: '' })),
      },
    })
  const lorry = await announced(bars, inDays(0), { ...noLoad, carrier: 'Own lorry' })
  await clerk.call(run.register, {
    params: { id: lorry.id },
    body: { version: lorry.version, load: { ...noLoad, carrier: 'Own lorry', vehicle: 'KX 204', driver: 'M. Adler', loadNumber: '7731' } },
  })
  await announced(springs, inDays(1), noLoad)
}
