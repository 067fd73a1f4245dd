import { onMounted, onScopeDispose } from 'vue'

const everyMs = 60_000

/** Asks again while a page is looked at: every minute, and as soon as somebody comes back to it. A page in the background rests. */
export function useFresh(ask: () => unknown): void {
  const look = () => {
    if (document.visibilityState === 'visible') void ask()
  }
  let timer: ReturnType<typeof setInterval> | undefined
  onMounted(() => {
    timer = setInterval(look, everyMs)
    document.addEventListener('visibilitychange', look)
  })
  onScopeDispose(() => {
    clearInterval(timer)
    document.removeEventListener('visibilitychange', look)
  })
}
