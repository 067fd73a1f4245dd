import { define } from '@nemawashi/contract'
import { onScopeDispose, ref } from 'vue'
import { call } from './api'

const everyMs = 400

/** How far a long request is, by its key: asked for while it runs, and nothing where it is done before the first answer. */
export function useProgress() {
  const step = ref<{ readonly done: number; readonly total: number } | null>(null)
  let timer: ReturnType<typeof setInterval> | undefined
  let followed: string | null = null

  function unfollow(): void {
    clearInterval(timer)
    followed = null
    step.value = null
  }
  function follow(key: string): void {
    unfollow()
    followed = key
    timer = setInterval(async () => {
      // A missed answer costs nothing: the next one comes.
      const reply = await call(define.getProgress, { params: { id: key } }).catch(() => null)
      if (followed === key && reply?.progress) step.value = reply.progress
    }, everyMs)
  }
  onScopeDispose(unfollow)
  return { step, follow, unfollow }
}
