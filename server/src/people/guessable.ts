import { weighPassword } from '@nemawashi/contract/guessable'
import { ServerError } from '../kernel/base/serverError'

/** Refuses a new password that is among the first that others would try. @throws {ServerError} `password_guessable` */
export function requireHardToGuess(password: string, field: string, { name, signInName }: { name: string; signInName: string }): void {
  if (!weighPassword(password, [name, signInName]).isEnough)
    throw new ServerError('password_guessable', 'This password is among the first that others would try.', { field })
}
