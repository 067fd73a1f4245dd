import type { Applied, Level, Miss, Reach } from './whichApply'

/** The levels of precedence as they are read aloud. */
export const levelWords: Readonly<Record<Level, string>> = {
  partOfPartner: 'this part with this partner',
  part: 'this part',
  familyOfPartner: 'this family with this partner',
  family: 'this family',
  everyPartOfPartner: 'every part with this partner',
  everyPart: 'every part',
}

const missWords: Readonly<Record<Miss, string>> = {
  part: 'only for another part',
  family: 'only for another family',
  supplier: 'only for another supplier',
  customer: 'only for another customer',
}

/** Why a control point applies, gives way, or does not reach: `set for this family; the one for this part goes before it`. */
export function sayApplied({ level, givesWayTo, misses }: Omit<Applied<Reach>, 'point' | 'opens'>): string {
  const [miss] = misses
  if (miss !== undefined) return missWords[miss]
  const set = `set for ${levelWords[level]}`
  return givesWayTo === null ? set : `${set}; the one for ${levelWords[givesWayTo]} goes before it`
}
