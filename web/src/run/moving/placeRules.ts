import { putAwayMomentWords, standingWords } from '@nemawashi/core'
import type { PutAwayRule, RuleInput } from '@nemawashi/contract'

/** A rule while it is edited: its place may still be missing, and a new one has no id yet. */
export interface RuleDraft extends Omit<PutAwayRule, 'id' | 'toPlaceId'> {
  readonly id: string | null
  toPlaceId: string | null
  /** What it is told apart by on the page. */
  readonly key: string
}

let made = 0
export function newRule(): RuleDraft {
  return {
    id: null,
    key: `new ${++made}`,
    name: '',
    partId: null,
    familyId: null,
    supplierId: null,
    standing: null,
    moment: 'always',
    fromPlaceId: null,
    toPlaceId: null,
    partCode: null,
    partFamilyId: null,
    familyName: null,
    supplierName: null,
    fromPlaceName: null,
    toPlaceName: '',
    toPurpose: 'store',
  }
}

/** What is sent of a rule. */
export function inputOf({ id, name, partId, familyId, supplierId, standing, moment, fromPlaceId, toPlaceId }: RuleDraft): RuleInput {
  return { id, name, partId, familyId, supplierId, standing, moment, fromPlaceId, toPlaceId: toPlaceId ?? '' }
}

/** What a rule is for, in words: `what is released of the family Steel, from Dock`. */
export function wordsOf(rule: RuleDraft): string {
  const standing = rule.standing === null ? 'everything' : `what is ${standingWords[rule.standing]}`
  const scope = rule.partId !== null ? ` of ${rule.partCode ?? '…'}` : rule.familyId !== null ? ` of the family ${rule.familyName ?? '…'}` : ''
  const by = rule.supplierId === null ? '' : ` by ${rule.supplierName ?? '…'}`
  const from = rule.fromPlaceId === null ? '' : `, from ${rule.fromPlaceName ?? '…'}`
  const moment = rule.moment === 'always' ? '' : `, ${putAwayMomentWords[rule.moment]}`
  return `${standing}${scope}${by}${from}${moment}`
}
