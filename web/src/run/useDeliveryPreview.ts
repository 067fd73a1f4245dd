import { endpoints, type AskedLine } from '@nemawashi/contract'
import { onScopeDispose, ref, watch } from 'vue'
import { call } from '../frame/api'

interface Typed {
  readonly supplierId: string | null
  readonly orderNumber: string
  readonly lines: readonly { readonly key: number; readonly partId: string | null; readonly quantity: number }[]
}
interface Preview {
  readonly load: readonly AskedLine[]
  readonly byLine: ReadonlyMap<number, { readonly placeName: string; readonly asked: readonly AskedLine[] }>
}

/** How long somebody pauses before it is asked what their lines would open. */
const pauseMs = 300

/**
 * What the lines of a delivery that are typed so far would ask for. Asked when the typing rests; an answer that was overtaken by other
 * words is dropped, and a refusal shows nothing: what is wrong is said when the delivery is booked in.
 */
export function useDeliveryPreview(typed: () => Typed) {
  const preview = ref<Preview | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined
  let asked = ''

  async function ask({ supplierId, orderNumber, lines }: Typed, words: string): Promise<void> {
    const whole = lines.flatMap(({ key, partId, quantity }) =>
      partId !== null && Number.isSafeInteger(quantity) && quantity > 0 ? [{ key, partId, quantity }] : [],
    )
    if (supplierId === null || whole.length === 0) return void (preview.value = null)
    try {
      const body = { supplierId, orderNumber, lines: whole.map(({ partId, quantity }) => ({ partId, quantity })) }
      const answer = await call(endpoints.run.previewDelivery, { body })
      if (words !== asked) return
      preview.value = { load: answer.load, byLine: new Map(whole.map(({ key }, i) => [key, answer.lines[i] as (typeof answer.lines)[number]])) }
    } catch {
      if (words === asked) preview.value = null
    }
  }
  watch(
    () => JSON.stringify(typed()),
    (words) => {
      asked = words
      preview.value = null
      clearTimeout(timer)
      timer = setTimeout(() => void ask(typed(), words), pauseMs)
    },
  )
  onScopeDispose(() => clearTimeout(timer))
  return { preview, previewOf: ({ key }: { readonly key: number }) => preview.value?.byLine.get(key) ?? null }
}
