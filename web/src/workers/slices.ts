const stopped = new Set<number>()
const breathe = () => new Promise((resolve) => setTimeout(resolve))

/** Whoever asked for a task wants it no longer. */
export function stop(id: number): void {
  stopped.add(id)
}

/**
 * Runs through a long task in slices of about 30 ms, telling the page how far it is, so that a stop is heard. Gives whether it came to its
 * end; where it did not, the page was told why.
 */
export async function inSlices<T>(
  id: number,
  { of: kind, words }: { of: number; words: string },
  all: Iterable<T>,
  each: (item: T) => void,
): Promise<boolean> {
  try {
    let slice = performance.now()
    let done = 0
    for (const item of all) {
      each(item)
      done += 1
      if (performance.now() - slice < 30) continue
      postMessage({ id, done: done / kind })
      await breathe()
      if (stopped.delete(id)) {
        postMessage({ id, outcome: { problem: `Stopped after ${done} of ${kind} ${words}.` } })
        return false
      }
      slice = performance.now()
    }
    return true
  } catch (error) {
    postMessage({ id, outcome: { problem: error instanceof Error ? error.message : String(error) } })
    return false
  }
}
