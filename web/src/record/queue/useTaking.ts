import { type Assignment, record } from '@nemawashi/contract'
import { asFailure, call, type Failure } from '../../shell/api'
import { ask } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { momentOf } from '../../format/format'

/** Taking an inspection, so that nobody else does, and putting it back; one that another has is asked about first. */
export function useTaking(failed: (failure: Failure) => void) {
  async function attempt(change: () => Promise<Assignment>): Promise<Assignment | null> {
    try {
      return await change()
    } catch (error) {
      failed(asFailure(error))
      return null
    }
  }
  async function take(id: string, code: string): Promise<Assignment | null> {
    try {
      const taken = await call(record.takeInspection, { params: { id }, body: {} })
      notify(`${code} is yours.`)
      return taken
    } catch (error) {
      const failure = asFailure(error)
      if (failure.code !== 'inspection_taken') {
        failed(failure)
        return null
      }
      const [holder, since] = [failure.facts['holder'], failure.facts['since']]
      const sure = await ask({
        title: `Take ${code} over?`,
        text: `${typeof holder === 'string' ? holder : 'Somebody'} has it${typeof since === 'string' ? ` since ${momentOf(since)}` : ''}. What was recorded stays; they see that you have it now.`,
        yes: 'Take it over',
        no: 'Leave it',
      })
      if (sure === null) return null
      return attempt(async () => {
        const taken = await call(record.takeInspection, { params: { id }, body: { isTakingOver: true } })
        notify(`${code} is yours now.`)
        return taken
      })
    }
  }
  const unassign = (id: string, code: string) =>
    attempt(async () => {
      const back = await call(record.unassignInspection, { params: { id } })
      notify(`${code} is put back: whoever comes next takes it.`)
      return back
    })
  return { take, unassign }
}
