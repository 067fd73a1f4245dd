import { type AskedLine, type PreviewedLine, run } from '@nemawashi/contract'
import { onScopeDispose, ref, watch } from 'vue'
import { call } from '../../shell/api'

interface Typed {
  readonly supplierId: string | null
  readonly orderNumber: string
  readonly lines: readonly {
    readonly key: number
    readonly partId: string | null
    readonly quantity: number
    readonly containers: readonly number[]
    readonly serials: number
  }[]
}
interface Preview {
  readonly load: readonly AskedLine[]
  readonly byLine: ReadonlyMap<number, PreviewedLine>
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
  let lastKey = ''

  async function ask({ supplierId, orderNumber, lines }: Typed, words: string): Promise<void> {
    const isCount = (quantity: number) => Number.isSafeInteger(quantity) && quantity > 0
    const whole = lines.flatMap(({ partId, containers, ...line }) =>
      partId !== null && isCount(line.quantity) ? [{ ...line, partId, containers: containers.every(isCount) ? [...containers] : [] }] : [],
    )
    if (supplierId === null || whole.length === 0) return void (preview.value = null)
    try {
      const body = { supplierId, orderNumber, lines: whole.map(({ key: _, ...line }) => line) }
      const answer = await call(run.previewDelivery, { body })
      if (words !== lastKey) return
      preview.value = { load: answer.load, byLine: new Map(whole.map(({ key }, i) => [key, answer.lines[i] as PreviewedLine])) }
    } catch {
      if (words === lastKey) preview.value = null
    }
  }
  watch(
    () => JSON.stringify(typed()),
    (words) => {
      lastKey = words
      preview.value = null
      clearTimeout(timer)
      timer = setTimeout(() => void ask(typed(), words), pauseMs)
    },
  )
  onScopeDispose(() => clearTimeout(timer))
  return { preview, previewOf: ({ key }: { readonly key: number }) => preview.value?.byLine.get(key) ?? null }
}
