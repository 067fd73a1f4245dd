import { type PurchaseOrder, type PurchaseOrderRow, run } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { useThing } from '../../shell/queries'

/** As many as are offered at once; whoever has more types the number. */
const most = 12

/** Purchase orders of a supplier that are not closed, and the one of them whose number is written in the form, with what is open. */
export function useOpenOrders(supplierId: () => string | null, orderNumber: () => string) {
  const orders = ref<PurchaseOrderRow[]>([])
  const more = ref(0)
  const wanted = ref<string | null>(null)
  /** Null where the server does not answer: the form works without. */
  const find = (id: string, q?: string) =>
    call(run.listPurchaseOrders, { query: { supplierId: id, state: 'open', limit: most, ...(q === undefined ? {} : { q }) } }).catch(() => null)
  watch(
    supplierId,
    async (id) => {
      orders.value = []
      more.value = 0
      if (id === null) return
      const found = await find(id)
      if (found === null || id !== supplierId()) return
      orders.value = found.rows
      more.value = found.total - found.rows.length
    },
    { immediate: true },
  )
  watch(
    () => [supplierId(), orderNumber().trim(), orders.value] as const,
    async ([id, number, offered]) => {
      const isIt = (row: PurchaseOrderRow) => row.orderNumber === number
      wanted.value = offered.find(isIt)?.id ?? null
      if (wanted.value !== null || id === null || number === '' || more.value === 0) return
      const found = await find(id, number)
      if (id === supplierId() && number === orderNumber().trim()) wanted.value = found?.rows.find(isIt)?.id ?? null
    },
    { immediate: true },
  )
  const { data: order } = useThing(run.getPurchaseOrder, () => (wanted.value === null ? null : { params: { id: wanted.value } }))
  return { orders, more, order: computed<PurchaseOrder | null>(() => order.value ?? null) }
}
