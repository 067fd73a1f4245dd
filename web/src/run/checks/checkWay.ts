import { isOpen } from '@nemawashi/core'
import type { OpenedCheck } from '@nemawashi/contract'

/** To the bench while a check is recorded, to the decision once it waits for one. */
export const wayTo = ({ id, state }: Pick<OpenedCheck, 'id' | 'state'>): string => (isOpen(state) ? `/record/${id}` : `/contain/${id}`)
