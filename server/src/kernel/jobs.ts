import type { Job } from './area'
import { forgetKeys } from './work/forgetKeys'
import type { Kernel } from './kernel'

const ownJobs: readonly Job[] = [{ words: 'forgetting old keys', everyMs: 6 * 3_600_000, run: forgetKeys }]

type Given = Pick<Kernel, 'areas' | 'work' | 'clock' | 'log' | 'config' | 'database' | 'identity'>

/**
 * Does what the server does by itself, once now and then every so often; one that is still at it is not begun a second time. None keeps the start
 * waiting, and none that fails ends anything: it is said, and tried again when its time comes. Gives what ends it.
 */
export function runJobs({ areas, work, clock, log, config, database, identity }: Given): () => void {
  const jobs = [...ownJobs, ...areas.flatMap(({ jobs: own = [] }) => own)]
  const timers = jobs.map(({ words, everyMs, run }) => {
    let isRunning = false
    const go = async () => {
      if (isRunning) return
      isRunning = true
      try {
        await run(work, clock.now(), { config, database, identity })
      } catch (error) {
        log.error({ err: error }, `${words} failed`)
      } finally {
        isRunning = false
      }
    }
    void go()
    return setInterval(() => void go(), everyMs)
  })
  return () => timers.forEach(clearInterval)
}
