import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'

/** Of five grades, 0 to 4: 3 is more than ten to the eighth guesses of somebody who begins with words, names, dates and what was leaked elsewhere. */
export const minGrade = 3
/** What comes after so many characters makes no difference any more, and would take long to weigh. */
const maxWeighed = 64
/** So much has to stand beside the own names: two of them and a year are ten to the eighth guesses for whoever does not know them. */
const minBesideNames = 8

/** Begun when it is first asked: the words take a fifth of a second and some megabytes. Pages load them when somebody begins to choose a password. */
let weighing: ZxcvbnFactory | null = null

/**
 * How hard a new password is to guess, as server and page both say it: leaked ones and common words (a list that ships), rows of keys, repeats and
 * the person's own names are the first that others would try.
 * @param names of the person: name and sign-in name
 * @returns grade 0 to 4, and whether it is enough
 */
export function weighPassword(password: string, names: readonly string[]): { readonly grade: number; readonly isEnough: boolean } {
  weighing ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
  const own = [...names, ...names.flatMap((name) => name.split(/\s+/)), 'nemawashi'].filter((word) => word.length > 2)
  const { score } = weighing.check(password.slice(0, maxWeighed), own)
  const typed = password.toLowerCase()
  const beside = own.reduce((left, word) => left.replaceAll(word.toLowerCase(), ''), typed)
  const isTooOwn = beside !== typed && beside.length < minBesideNames
  return { grade: isTooOwn ? Math.min(score, minGrade - 1) : score, isEnough: score >= minGrade && !isTooOwn }
}
