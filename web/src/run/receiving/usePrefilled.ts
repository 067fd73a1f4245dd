import { type ExpectedDelivery, type PurchaseOrder, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'

/**
 * Fills a form in from what is known already: what was announced, or what was ordered. `given` is the supplier in words, for the field
 * that would not know it; the form shows its fields when nothing is waited for.
 */
export function usePrefilled(
  { expectedId = null, orderId = null }: { expectedId?: string | null; orderId?: string | null },
  { fromExpected, fromOrder }: { fromExpected?: (found: ExpectedDelivery) => void; fromOrder: (found: PurchaseOrder) => void },
) {
  const given = ref<{ id: string; title: string } | null>(null)
  const isWaiting = ref(expectedId !== null || orderId !== null)
  async function fill(): Promise<void> {
    try {
      const found =
        expectedId !== null
          ? await call(run.getExpected, { params: { id: expectedId } })
          : await call(run.getPurchaseOrder, { params: { id: orderId ?? '' } })
      given.value = { id: found.supplierId, title: found.supplierName }
      if ('expectedOn' in found) fromExpected?.(found)
      else fromOrder(found)
    } catch {
      notify('What was to be filled in could not be loaded: fill it in by hand.')
    } finally {
      isWaiting.value = false
    }
  }
  if (isWaiting.value) void fill()
  return { given, isWaiting }
}
