import {
  dispositionWords,
  dispositionsFor,
  mayChoose,
  needsReason,
  standingAfter,
  standingWords,
  type Disposition,
  type Judged,
  type Signer,
  type Standing,
} from '@nemawashi/core'
import type { DecisionProblem, Person } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { placeOf } from '../../stock/putAway/placeFor'

/** One row of any decision, as far as it is checked by itself. */
export interface CheckedRow {
  readonly disposition: Disposition
  readonly reason: string
  readonly standing: Standing
}

/** Purposes of the places that pieces go to; released ones stay where they are. */
export const placePurpose: Partial<Record<Disposition, 'quarantine' | 'outside' | 'scrap'>> = {
  quarantine: 'quarantine',
  returnToSupplier: 'outside',
  scrap: 'scrap',
}

export const signerOf = ({ roles }: Pick<Person, 'roles'>): Signer => ({
  isManager: roles.includes('qualityManager'),
  isInspector: roles.includes('inspector'),
})

/**
 * What stands in the way of signing these rows, each row by itself: everything at once, before a signature is asked for.
 * Whether the quantities add up is asked where it is known what is held.
 */
export async function rowProblems<R extends CheckedRow>(
  reader: Reader,
  person: Person,
  rows: readonly R[],
  judgedOf: (row: R) => Judged,
): Promise<DecisionProblem[]> {
  const problems: DecisionProblem[] = []
  const signer = signerOf(person)
  for (const [row, wanted] of rows.entries()) {
    const { disposition, reason, standing } = wanted
    const judged = judgedOf(wanted)
    const words = dispositionWords[disposition]
    if (disposition === 'release' && judged.hasFailed && judged.isSorted !== true)
      problems.push({ row, code: 'release_is_concession', message: 'What is not acceptable is not simply released: using it as is is a concession.' })
    else if (disposition === 'returnToSupplier' && judged.isMade)
      problems.push({ row, code: 'movement_not_allowed', message: 'It was made here: it can go back to no supplier.' })
    else if (!dispositionsFor(standing, judged).includes(disposition))
      problems.push({
        row,
        code: 'movement_not_allowed',
        message: `What is ${standingWords[standing]} cannot become ${standingWords[standingAfter[disposition]]} by "${words}".`,
      })
    if (!mayChoose(signer, disposition)) problems.push({ row, code: 'decision_beyond_role', message: `"${words}" is for a quality manager.` })
    if (needsReason(disposition) && reason.trim().length < 3)
      problems.push({ row, code: 'reason_missing', message: `"${words}" needs a reason, of three letters at least.` })
  }
  const purposes = new Set(rows.flatMap(({ disposition }) => placePurpose[disposition] ?? []))
  for (const purpose of purposes) {
    if ((await placeOf(reader, purpose)) === null)
      problems.push({
        row: null,
        code: 'place_missing',
        message: `There is no place with the purpose "${purpose}" yet. Create one under Define, Places.`,
      })
  }
  return problems
}
