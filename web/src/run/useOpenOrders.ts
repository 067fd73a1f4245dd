import { endpoints, type PurchaseOrder, type PurchaseOrderRow } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../frame/api'
import { useThing } from '../frame/queries'

const { run } = endpoints
/** As many as are offered at once; whoever has more types the number. */
const most = 12

/** Purchase orders of a supplier that are not closed, and the one of them whose number is written in the form, with what is open. */
export function useOpenOrders(supplierId: () => string | null, orderNumber: () => string) {
  const orders = ref<PurchaseOrderRow[]>([])
  const more = ref(0)
  watch(
    supplierId,
    async (id) => {
      orders.value = []
      if (id === null) return
      const found = await call(run.listPurchaseOrders, { query: { supplierId: id, state: 'open', limit: most } }).catch(() => null)
      if (found === null || id !== supplierId()) return
      orders.value = found.rows
      more.value = found.total - found.rows.length
    },
    { immediate: true },
  )
  const wanted = computed(() => orders.value.find((order) => order.orderNumber === orderNumber().trim())?.id ?? null)
  const { data: order } = useThing(run.getPurchaseOrder, () => (wanted.value === null ? null : { params: { id: wanted.value } }))
  return { orders, more, order: computed<PurchaseOrder | null>(() => order.value ?? null) }
}
