import { whyItWaits, type BenchMoment, type WaitingReason } from '@nemawashi/core'
import { addressOf, equip, type BenchEvents, type GaugeUse, type SentValue } from '@nemawashi/contract'
import { computed, onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'

/** What an instrument sent and what did not go into a cell by itself, with why. */
export interface WaitingValue extends SentValue {
  readonly code: string
  readonly reason: WaitingReason
}

/** How the bench and an instrument stand: whether it is listened to, and when it was heard of last. */
export interface Listening {
  readonly isOpen: boolean
  /** By the clock of this browser. */
  readonly heardAtMs: number | null
  /** Who listens to it instead. */
  readonly replacedBy: string | null
}

interface Bench {
  /** Gauges chosen in the inspection. */
  readonly gauges: Ref<readonly GaugeUse[]>
  readonly isOpen: Ref<boolean>
  moment(): Omit<BenchMoment, 'waiting'>
  /** Puts a value into the open cell; false where it cannot stand there, with the message set. */
  take(value: SentValue): boolean
  say(message: string): void
}

/**
 * Listens to the instruments of an inspection. A value goes into the open cell as if it had been typed there, or waits for a person: it never
 * replaces an answer or what is being typed, and what was pressed over five seconds ago lands in no cell by itself.
 */
export function useInstruments(inspectionId: string, bench: Bench) {
  const waiting = shallowRef<readonly WaitingValue[]>([])
  const standing = ref(new Map<string, Listening>())
  /** A browser keeps few connections to one server: a tab that nobody looks at gives its own back, and takes the instruments when it is looked at again. */
  const isSeen = ref(document.visibilityState !== 'hidden')
  const look = () => (isSeen.value = document.visibilityState !== 'hidden')
  document.addEventListener('visibilitychange', look)
  const sending = computed(() => [...new Map(bench.gauges.value.filter(({ isSending }) => isSending).map((use) => [use.gaugeId, use])).values()])
  const codeOf = (gaugeId: string) => sending.value.find((use) => use.gaugeId === gaugeId)?.code ?? 'An instrument'
  let stream: EventSource | null = null

  const note = (gaugeId: string, changes: Partial<Listening>) => {
    const before = standing.value.get(gaugeId) ?? { isOpen: true, heardAtMs: null, replacedBy: null }
    standing.value = new Map(standing.value).set(gaugeId, { ...before, ...changes })
  }
  function hear<K extends keyof BenchEvents>(name: K, act: (data: BenchEvents[K]) => void): void {
    stream?.addEventListener(name, (event) => act(JSON.parse((event as MessageEvent<string>).data) as BenchEvents[K]))
  }
  function came(sent: SentValue): void {
    note(sent.gaugeId, { heardAtMs: Date.now() })
    const reason = whyItWaits(sent, { ...bench.moment(), waiting: waiting.value.length })
    if (reason === null && bench.take(sent)) return
    // What cannot stand in the cell waits too, with the message beside it.
    waiting.value = [...waiting.value, { ...sent, code: codeOf(sent.gaugeId), reason: reason ?? 'unfit' }]
  }
  function open(): void {
    stream?.close()
    stream = null
    standing.value = new Map()
    if (!bench.isOpen.value || !isSeen.value || sending.value.length === 0) return
    stream = new EventSource(addressOf(equip.followSentValues, { params: { id: inspectionId } }))
    stream.addEventListener('open', () => {
      for (const { gaugeId } of sending.value) note(gaugeId, { isOpen: true, replacedBy: null })
    })
    stream.addEventListener('error', () => {
      for (const { gaugeId } of sending.value) note(gaugeId, { isOpen: false })
    })
    hear('value', came)
    hear('alive', ({ gaugeId, agoMs }) => note(gaugeId, { heardAtMs: agoMs === null ? null : Date.now() - agoMs }))
    hear('refused', ({ gaugeId, message }) => bench.say(`${codeOf(gaugeId)}: ${message}`))
    hear('replaced', ({ gaugeId, byName, inspectionCode }) => note(gaugeId, { replacedBy: `${byName}, ${inspectionCode}` }))
  }
  watch([() => sending.value.map(({ gaugeId }) => gaugeId).join(), bench.isOpen, isSeen], open, { immediate: true })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', look)
    stream?.close()
  })

  /** The first value that waits goes into the open cell, by a person's word. */
  function takeFirst(): void {
    const [first, ...rest] = waiting.value
    if (first && bench.take(first)) waiting.value = rest
  }
  function leave(id: string): void {
    waiting.value = waiting.value.filter((value) => value.id !== id)
  }
  return { waiting, standing, takeFirst, leave, listen: open }
}
