import { type Inspection, record } from '@nemawashi/contract'
import { computed, nextTick, type Ref } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { ask, type Question } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { amount } from '../../format/format'

/** Taking a finding back, or the whole inspection: asked about first, with a reason that stands in the audit chain. */
export function useBenchSteps(id: string, inspection: Ref<Inspection | null>, failure: Ref<Failure | null>, done: () => void) {
  async function step(endpoint: typeof record.reopenInspection, question: Question, words: string): Promise<void> {
    const current = inspection.value
    if (!current) return
    const reason = await ask(question)
    if (reason === null) return
    try {
      inspection.value = await call(endpoint, { params: { id }, body: { version: current.version, reason } })
      notify(words)
      // What was closed is drawn anew before the cursor can go there.
      await nextTick()
      done()
    } catch (error) {
      failure.value = asFailure(error)
    }
  }
  const reopen = () =>
    step(
      record.reopenInspection,
      { title: 'Back to the bench?', text: 'The finding is taken back. The reason stands in the audit chain.', yes: 'Reopen', needsReason: true },
      'Reopened.',
    )
  const cancel = () =>
    step(
      record.cancelInspection,
      {
        title: `Cancel ${inspection.value?.code}?`,
        text: `It was opened by mistake and asks for nothing any more; what was recorded stays readable. ${cancelConsequence.value}`,
        yes: 'Cancel the inspection',
        no: 'Keep it',
        needsReason: true,
      },
      `${inspection.value?.code} is cancelled.`,
    )
  const cancelConsequence = computed(() => {
    const current = inspection.value
    if (!current?.holds) return 'It holds nothing.'
    const held = current.held.reduce((sum, { quantity }) => sum + quantity, 0)
    if (current.otherOpenInspections.length > 0) return `What is on hold stays so for ${current.otherOpenInspections.join(', ')}.`
    return `${amount(held, current.unit)} on hold become free: nothing else holds them.`
  })
  return { reopen, cancel }
}
