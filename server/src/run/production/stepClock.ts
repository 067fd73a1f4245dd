import type { Job } from '../../kernel/area'
import type { UnitOfWork, Work } from '../../kernel/work/unitOfWork'
import { OrderStepEntity, ProductionOrderEntity } from './entities'
import { openEveryMinutes, partOfOrder } from './openAtStep'
import { runningByTheClock } from './stepReportRepository'
import { doneOf, timesOf } from './stepReports'

/** Opens what has come up by the clock at a step; somebody may have gone on with it meanwhile. */
async function lookAt(work: Work, { stepId, orderId, personId }: { stepId: string; orderId: string; personId: string }): Promise<void> {
  const step = await work.manager.findOneBy(OrderStepEntity, { id: stepId, state: 'running' })
  const row = await work.manager.findOneBy(ProductionOrderEntity, { id: orderId, state: 'released' })
  const times = step === null ? null : await timesOf(work, step)
  if (step === null || row === null || times === null || times.isPaused) return work.nothingChanged()
  const at = { row, step, part: await partOfOrder(work, row) }
  const isUp = await openEveryMinutes(work, at, { before: times.lookedAt, after: times.minutes, done: doneOf(step), personId })
  if (!isUp) return work.nothingChanged()
  await work.manager.update(ProductionOrderEntity, { id: row.id }, { version: row.version + 1 })
  work.audit({ action: 'time passed', subject: 'production order', subjectId: row.id, after: { minutes: Math.floor(times.minutes) } })
}

/** Looks at every running step; one that cannot be looked at keeps none of the others waiting. */
async function lookAtAll(work: UnitOfWork, running: readonly { stepId: string; orderId: string; personId: string }[]): Promise<void> {
  const failures: unknown[] = []
  for (const entry of running)
    await work.run({ personId: null, key: null, content: '' }, (unit) => lookAt(unit, entry)).catch((error) => failures.push(error))
  if (failures.length > 0) throw new AggregateError(failures, `${failures.length} of ${running.length} running steps could not be looked at`)
}

/** Opens what is asked every so many minutes of a step that runs, though nobody tells anything of it. A pause stops its clock. */
export function lookingAtTheClock(): Job {
  let isLooking = false
  return {
    words: 'looking at the clock for running steps',
    everyMs: 15_000,
    async run(work, _now, { database }) {
      if (isLooking) return
      isLooking = true
      try {
        await lookAtAll(work, await runningByTheClock(database.reader))
      } finally {
        isLooking = false
      }
    },
  }
}
