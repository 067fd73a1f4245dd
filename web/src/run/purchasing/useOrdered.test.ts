import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, ref, type EffectScope } from 'vue'
import { queryClient } from '../../shell/queries'
import { goodsLine, type GoodsLine } from '../goods/goodsLine'
import { useOrdered } from './useOrdered'

const supplier = '01900000-0000-7000-8000-0000000000aa'
const part = { partId: 'bar', partCode: 'BR-1', partName: 'Bar', unit: 'piece', dueOn: null }
const orders: Record<string, object[]> = {
  '01900000-0000-7000-8000-000000000001': [
    { ...part, id: 'a', quantity: 100, received: 40, open: 60 },
    { ...part, id: 'b', partId: 'ring', quantity: 10, received: 10, open: 0 },
  ],
  '01900000-0000-7000-8000-000000000099': [{ ...part, id: 'c', quantity: 5, received: 0, open: 5 }],
}
const row = (id: string, orderNumber: string) => ({ id, orderNumber, partCodes: 'BR-1', dueOn: null })
const [first, far] = [row(Object.keys(orders)[0] as string, '4711'), row(Object.keys(orders)[1] as string, '9900')]
let scope: EffectScope
beforeEach(() => {
  scope = effectScope()
  vi.stubGlobal('fetch', async (address: string) => {
    const url = new URL(address, 'http://plant')
    const id = /purchase-orders\/([^/?]+)/.exec(url.pathname)?.[1]
    const body = id
      ? { id, supplierId: supplier, orderNumber: id === first.id ? '4711' : '9900', lines: orders[id] }
      : url.searchParams.get('q') === '9900'
        ? { rows: [far], total: 1, next: null }
        : { rows: [first], total: 13, next: 'x' }
    return new Response(JSON.stringify(body))
  })
})
afterEach(() => {
  scope.stop()
  queryClient.clear()
  vi.unstubAllGlobals()
})
const settle = async () => {
  for (let i = 0; i < 8; i++) await flushPromises()
}
function form() {
  const supplierId = ref<string | null>(null)
  const orderNumber = ref('')
  const lines = ref<GoodsLine[]>([goodsLine()])
  return { supplierId, orderNumber, lines, ...scope.run(() => useOrdered({ supplierId, orderNumber, lines }))! }
}

it('open orders of the supplier are offered, and one of them fills in what is still open on it', async () => {
  const { supplierId, lines, orders: offered, more, choose, hints } = form()
  supplierId.value = supplier
  await settle()
  expect([offered.value.map(({ orderNumber }) => orderNumber), more.value]).toEqual([['4711'], 12])
  await choose(offered.value[0] as never)
  await settle()
  expect(lines.value.map(({ partId, quantity }) => [partId, quantity])).toEqual([['bar', '60']])
  expect(hints.value).toEqual(['60 open on the order'])
})

it('lines that somebody has written in stay, and are held against the order', async () => {
  const { supplierId, lines, orders: offered, choose, hints } = form()
  supplierId.value = supplier
  lines.value = [goodsLine({ partId: 'bar', quantity: '70' })]
  await settle()
  await choose(offered.value[0] as never)
  await settle()
  expect([lines.value[0]?.quantity, hints.value]).toEqual(['70', ['10 more than is open']])
})

it('an order that is not among those offered is found by its number', async () => {
  const { supplierId, orderNumber, lines, hints } = form()
  supplierId.value = supplier
  lines.value = [goodsLine({ partId: 'bar', quantity: '5' })]
  await settle()
  orderNumber.value = ' 9900 '
  await settle()
  expect(hints.value).toEqual(['5 open on the order'])
})
