import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import { ServerError } from '../kernel/serverError'

/** Of five grades, 0 to 4: 3 is more than ten to the eighth guesses of somebody who begins with words, names, dates and what was leaked elsewhere. */
const leastScore = 3
/** What comes after so many characters makes no difference any more, and would take long to weigh. */
const mostWeighed = 64

/** So much has to stand beside the own names: two of them and a year are ten to the eighth guesses for whoever does not know them. */
const leastBesideNames = 8

/** Begun when it is first asked: the words take a fifth of a second and some megabytes. */
let weighing: ZxcvbnFactory | null = null

/**
 * Refuses a new password that is among the first that others would try: leaked ones and common words (a list that ships), rows of keys, repeats,
 * the person's own names.
 * @throws {ServerError} `password_guessable`
 */
export function requireHardToGuess(password: string, field: string, { name, signInName }: { name: string; signInName: string }): void {
  weighing ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
  const own = [name, signInName, ...name.split(/\s+/), 'nemawashi'].filter((word) => word.length > 2)
  const { score } = weighing.check(password.slice(0, mostWeighed), own)
  const typed = password.toLowerCase()
  const beside = own.reduce((left, word) => left.replaceAll(word.toLowerCase(), ''), typed)
  if (score < leastScore || (beside !== typed && beside.length < leastBesideNames))
    throw new ServerError('password_guessable', 'This password is among the first that others would try.', { field })
}
