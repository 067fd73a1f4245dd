import { type Inspection, type LineSkip, record } from '@nemawashi/contract'
import { ref, type Ref } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { notify } from '../../shell/notify'
import { benchOutbox } from './benchOutbox'
import type { SkippedLine } from './SkipDialog.vue'

interface Desk {
  readonly inspection: Ref<Inspection | null>
  readonly failure: Ref<Failure | null>
  readonly message: Ref<string>
  /** Readings that are not stored yet. */
  readonly unsent: Readonly<Ref<number>>
  readonly load: () => Promise<void>
  /** To the first cell that has no answer, where there is one. */
  readonly toFirstBlank: () => void
  readonly done: () => void
}

/** Judging the lot: when everything typed is stored, with a reason for each line that was left blank, and to the first blank where that is refused. */
export function useFinish(id: string, { inspection, failure, message, unsent, load, toFirstBlank, done }: Desk) {
  const isBusy = ref(false)
  const isSkipping = ref(false)
  const skipped = ref<SkippedLine[]>([])

  async function judge(version: number, skips: LineSkip[]): Promise<void> {
    const finished = await call(record.finishInspection, { params: { id }, body: { version, skips } })
    inspection.value = finished
    localStorage.removeItem(`draft ${id}`)
    const more = finished.followUps.map(({ code }) => ` ${code} is opened for an answer.`).join('')
    notify(`${finished.code} is finished: ${finished.finding.verdict === 'acceptable' ? 'acceptable' : 'not acceptable'}.${more}`)
  }
  async function refused(error: unknown): Promise<void> {
    const failed = asFailure(error)
    if (failed.code === 'skip_reason_missing') {
      skipped.value = failed.facts['skipped'] as SkippedLine[]
      isSkipping.value = true
      return
    }
    failure.value = failed
    if (failed.code === 'stale_version') await load()
    if (failed.code === 'answers_missing') toFirstBlank()
  }
  async function finish(skips: LineSkip[] = []): Promise<void> {
    if (isBusy.value || !inspection.value) return
    isBusy.value = true
    failure.value = null
    try {
      await benchOutbox.flush()
      if (unsent.value > 0) message.value = `${unsent.value} readings are not stored yet; the inspection can be finished when they are.`
      else await judge(inspection.value.version, skips)
    } catch (error) {
      await refused(error)
    } finally {
      isBusy.value = false
      done()
    }
  }
  return { isBusy, isSkipping, skipped, finish }
}
