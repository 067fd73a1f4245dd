import { ServerError } from '../kernel/base/serverError'

/** Refuses a new password that is among the first that others would try. @throws {ServerError} `password_guessable` */
export async function requireHardToGuess(password: string, field: string, { name, signInName }: { name: string; signInName: string }): Promise<void> {
  // Common words and names, two megabytes: loaded when somebody chooses a password.
  const { weighPassword } = await import('@nemawashi/contract/guessable')
  if (!weighPassword(password, [name, signInName]).isEnough)
    throw new ServerError('password_guessable', 'This password is among the first that others would try.', { field })
}
