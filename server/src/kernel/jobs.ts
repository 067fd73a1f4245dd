import type { Job } from './area'
import { forgetKeys } from './work/forgetKeys'
import type { Kernel } from './kernel'

const ownJobs: readonly Job[] = [{ words: 'forgetting old keys', everyMs: 6 * 3_600_000, run: forgetKeys }]

/** So often a server of several looks whether it is the one that does them by now. */
const leadsEveryMs = 1_500

type Given = Pick<Kernel, 'areas' | 'work' | 'clock' | 'log' | 'config' | 'database' | 'identity'>

/**
 * Does what the server does by itself, once now and then every so often; one that is still at it is not begun a second time. None keeps the start
 * waiting, and none that fails ends anything: it is said, and tried again when its time comes. Where several servers are at one plant, one of them
 * does it for all, but for what each has to do itself; when that one ends another begins, with everything once. Gives what ends it.
 */
export function runJobs({ areas, work, clock, log, config, database, identity }: Given): () => void {
  let isLeading = false
  const jobs = [...ownJobs, ...areas.flatMap(({ jobs: own = [] }) => own)].map(({ words, everyMs, isOfEach = false, run }) => {
    let isRunning = false
    const go = async () => {
      if (isRunning || !(isLeading || isOfEach)) return
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
    return { go, isOfEach, timer: setInterval(() => void go(), everyMs) }
  })
  const look = async () => {
    const led = isLeading
    isLeading = await database.fellows.leads()
    if (!led && isLeading) for (const { go, isOfEach } of jobs) if (!isOfEach) void go()
  }
  void look()
  const looking = setInterval(() => void look(), leadsEveryMs)
  return () => {
    clearInterval(looking)
    for (const { timer } of jobs) clearInterval(timer)
  }
}
