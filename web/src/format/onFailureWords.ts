import type { OnFailure } from '@nemawashi/core'

/** What follows when an inspection that is no gate fails. */
export const onFailureWords: Readonly<Record<OnFailure, string>> = {
  hold: 'a failure holds what is still there',
  holdMade: 'a failure holds what was made since the last check that conformed',
  note: 'a failure is only noted',
}
