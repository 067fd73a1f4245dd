import type { Applied, Level, Mismatch, Reach } from './whichApply'

/** The levels of precedence as they are read aloud. */
export const levelWords: Readonly<Record<Level, string>> = {
  partUnderContract: 'this part under this contract',
  partOfPartner: 'this part with this partner',
  partOfGroup: 'this part from this group of suppliers',
  part: 'this part',
  familyUnderContract: 'this family under this contract',
  familyOfPartner: 'this family with this partner',
  familyOfGroup: 'this family from this group of suppliers',
  family: 'this family',
  everyPartUnderContract: 'every part under this contract',
  everyPartOfPartner: 'every part with this partner',
  everyPartOfGroup: 'every part from this group of suppliers',
  everyPart: 'every part',
}

/** The order of precedence in one breath. */
export const precedenceWords =
  'what is set for the part goes before its family, and that before every part; among those, a contract before a partner, and that before a group of suppliers'

const mismatchWords: Readonly<Record<Mismatch, string>> = {
  part: 'only for another part',
  family: 'only for another family',
  supplier: 'only for another supplier',
  customer: 'only for another customer',
  group: 'only for another group of suppliers',
  contract: 'only under another contract',
}

/** Why a control point applies, gives way, or does not reach: `set for this family; the one for this part goes before it`. */
export function describeApplied({ level, supersededBy, mismatches }: Omit<Applied<Reach>, 'point' | 'opens'>): string {
  const [mismatch] = mismatches
  if (mismatch !== undefined) return mismatchWords[mismatch]
  const set = `set for ${levelWords[level]}`
  return supersededBy === null ? set : `${set}; the one for ${levelWords[supersededBy]} goes before it`
}
