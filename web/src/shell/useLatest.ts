import { ref } from 'vue'

/**
 * For what is asked for again before the last answer is there: only the last question is answered, those before it are given up. Null is
 * the answer to a question that another one has followed, whether or not it would have failed.
 */
export function useLatest() {
  let current: AbortController | null = null
  const isWaiting = ref(false)

  /** @param send hands the signal to `call`, which gives the request up. @throws what the last question fails with. */
  async function ask<T>(send: (signal: AbortSignal) => Promise<T>): Promise<T | null> {
    current?.abort()
    const { signal } = (current = new AbortController())
    isWaiting.value = true
    try {
      const answer = await send(signal)
      return signal.aborted ? null : answer
    } catch (error) {
      if (signal.aborted) return null
      throw error
    } finally {
      if (!signal.aborted) isWaiting.value = false
    }
  }
  return { ask, isWaiting }
}
