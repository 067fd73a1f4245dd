import { computed, type Ref } from 'vue'
import { useInstruments } from '../entry/useInstruments'
import type { useBench } from './useBench'

type Bench = Pick<ReturnType<typeof useBench>, 'inspection' | 'line' | 'gauge' | 'at' | 'current' | 'typed' | 'doubt' | 'message' | 'takeSent'>

/** What instruments send to this bench; after each act of a person the next key is an answer again. */
export function useBenchInstruments(
  id: string,
  { inspection, line, gauge, at, current, typed, doubt, message, takeSent }: Bench,
  isOpen: Ref<boolean>,
  focusEntry: () => void,
) {
  const { waiting, standing, takeFirst, leave, listen } = useInstruments(id, {
    gauges: computed(() => inspection.value?.gauges ?? []),
    isOpen,
    moment: () => ({
      line: line.value && { kind: line.value.kind, recording: line.value.details.recording, sampleSize: line.value.sampleSize },
      gaugeId: gauge.value?.gaugeId ?? null,
      piece: at.value.piece,
      isAnswered: current.value?.value != null,
      isTyping: typed.value.trim() !== '',
      isAsking: doubt.value !== null,
    }),
    take: takeSent,
    say: (words) => (message.value = words),
  })
  function thenFocus<A extends unknown[]>(act: (...given: A) => void) {
    return (...given: A) => {
      act(...given)
      focusEntry()
    }
  }
  return {
    waiting,
    /** How it stands with the instrument in hand; null where the gauge sends nothing. */
    listening: computed(() => (gauge.value && standing.value.get(gauge.value.gaugeId)) ?? null),
    takeWaiting: thenFocus(takeFirst),
    leaveWaiting: thenFocus(leave),
    listenAgain: thenFocus(listen),
  }
}
