import type { Job } from './area'
import { forgetKeys } from './forgetKeys'
import type { Kernel } from './kernel'

const ownJobs: readonly Job[] = [{ words: 'forgetting old keys', everyMs: 6 * 3_600_000, run: forgetKeys }]

/** Does what the server does by itself, once now and then every so often. Gives what ends it. */
export async function runJobs({
  areas,
  work,
  clock,
  log,
  config,
  database,
}: Pick<Kernel, 'areas' | 'work' | 'clock' | 'log' | 'config' | 'database'>): Promise<() => void> {
  const jobs = [...ownJobs, ...areas.flatMap(({ jobs: own = [] }) => own)]
  for (const { run } of jobs) await run(work, clock.now(), { config, database })
  const timers = jobs.map(({ words, everyMs, run }) =>
    setInterval(
      () => void run(work, clock.now(), { config, database }).catch((error: unknown) => log.error({ err: error }, `${words} failed`)),
      everyMs,
    ),
  )
  return () => timers.forEach(clearInterval)
}
