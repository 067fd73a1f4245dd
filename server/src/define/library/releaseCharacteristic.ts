import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { memoizeInWork } from '../../kernel/work/memoizeInWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { knownUnits } from '../masters/measureUnits'
import { checkedFields, detailsOf } from './checkedFields'
import { CharacteristicEntity, CharacteristicRevisionEntity } from './entities'
import { followUpPlan } from './repository'
import { draftOf, releaseDraft } from './revisions'

const words = 'characteristic'

/**
 * Releases the draft of a characteristic; the revision before it is retired.
 * @throws {ServerError} what is wrong with the draft; `nothing_released` when an answer asks for a plan that could not be opened.
 */
export async function releaseCharacteristic(work: Work, id: string, version: number): Promise<void> {
  const current = await loadAt(work, CharacteristicEntity, words, id, version)
  const draft = await draftOf(work, CharacteristicRevisionEntity, { characteristicId: id }, words, current.code)
  const { details } = checkedFields(
    { ...draft, details: detailsOf(draft.details) },
    await memoizeInWork(work, 'known units', () => knownUnits(work.manager)),
  )
  for (const { code, followUpPlanId } of details.answers) {
    const plan = followUpPlanId === null ? null : await followUpPlan(work.manager, followUpPlanId)
    if (followUpPlanId === null || (plan !== null && plan.released > 0)) continue
    throw new ServerError(
      'nothing_released',
      `The answer ${code} of ${current.code} asks for ${plan ? `the plan ${plan.code}, which has no released revision` : 'a plan that is not there'}. Release it, or choose another.`,
      { answer: code, plan: plan?.code ?? followUpPlanId },
    )
  }
  await releaseDraft(work, CharacteristicRevisionEntity, { characteristicId: id }, draft)
  await saveNext(work, CharacteristicEntity, words, `revision ${draft.revision} released`, current, {})
}
