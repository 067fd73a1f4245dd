import type { weighPassword } from '@nemawashi/contract/guessable'

export type Weigh = typeof weighPassword

/** What `Password` of the contract asks for, too: shorter ones are not weighed. */
const minPasswordLength = 12
const words = ['the first that others try', 'soon guessed', 'not hard enough to guess', 'hard to guess', 'very hard to guess'] as const

/** What is said beside a new password while it is typed: of four steps, in words, and whether it will be taken. */
export function gradeOf(weigh: Weigh, password: string, own: readonly string[]): { steps: number; words: string; isEnough: boolean } {
  if (password.length < minPasswordLength) return { steps: 1, words: `${minPasswordLength - password.length} more characters`, isEnough: false }
  const { grade, isEnough } = weigh(password, own)
  return { steps: Math.max(1, isEnough ? grade : Math.min(grade, 2)), words: words[grade as 0 | 1 | 2 | 3 | 4], isEnough }
}
