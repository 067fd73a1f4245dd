import { setTimeout } from 'node:timers/promises'
import { answerTasks } from '../kernel/threads/answerTasks'
import type { HeavyTask } from '../kernel/threads/threadPool'

/** Tasks that a test of the pool has done: what each is given says how it goes. */
export const double: HeavyTask<number, number> = { name: 'double', run: (given) => 2 * given }
export const slow: HeavyTask<number, string> = {
  name: 'slow',
  async run(ms, tell) {
    tell(1, 2)
    await setTimeout(ms)
    return 'done'
  },
}
export const refuse: HeavyTask<string, never> = {
  name: 'refuse',
  run(words) {
    throw new Error(words)
  },
}
export const die: HeavyTask<null, never> = { name: 'die', run: () => process.exit(1) as never }
export const bytes: HeavyTask<number, Uint8Array> = { name: 'bytes', run: (length) => new Uint8Array(length).fill(7) }

answerTasks([double, slow, refuse, die, bytes])
