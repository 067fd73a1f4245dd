import type { DecisionProblem } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { asFailure, newKey, type Failure } from '../shell/api'
import { useSaver } from '../composables/useSaver'

interface Sealing {
  /** Everything that stands in the way; nothing is changed by asking. */
  readonly check: () => Promise<DecisionProblem[]>
  readonly sign: (password: string, key: string) => Promise<void>
  readonly signed: () => void
  /** Somebody else was faster: what is shown is not what is there. */
  readonly stale: () => void
}

const overtaken = new Set(['already_decided', 'stale_version', 'decision_superseded'])

/** Checks everything first and says everything at once; only then the password is asked for. What was typed stays as it is throughout. */
export function useSeal({ check, sign, signed, stale }: Sealing) {
  const saver = useSaver()
  const isSigning = ref(false)
  const isChecking = ref(false)
  const password = ref('')
  const problems = ref<DecisionProblem[]>([])
  const failure = ref<Failure | null>(null)
  let key = newKey()

  async function begin(): Promise<void> {
    if (isChecking.value) return
    isChecking.value = true
    failure.value = null
    saver.clear()
    try {
      problems.value = await check()
      password.value = ''
      isSigning.value = problems.value.length === 0
    } catch (error) {
      failure.value = asFailure(error)
      if (overtaken.has(failure.value.code)) stale()
    } finally {
      isChecking.value = false
    }
  }
  async function seal(): Promise<void> {
    const done = await saver.save(() => sign(password.value, key))
    password.value = ''
    const code = saver.failure.value?.code
    // A request that may have arrived is repeated under its key; a refused one is another request.
    if (code !== 'unreachable') key = newKey()
    if (done) {
      isSigning.value = false
      return signed()
    }
    if (code === 'password_wrong' || code === 'too_many_attempts' || code === 'unreachable') return
    isSigning.value = false
    failure.value = saver.failure.value
    problems.value = (failure.value?.facts['problems'] as DecisionProblem[] | undefined) ?? []
    if (code && overtaken.has(code)) stale()
  }
  const ofRow = (row: number) => problems.value.filter((problem) => problem.row === row).map(({ message }) => message)
  const ofAll = computed(() => problems.value.filter((problem) => problem.row === null).map(({ message }) => message))
  return { saver, isSigning, isChecking, password, failure, begin, seal, ofRow, ofAll }
}
