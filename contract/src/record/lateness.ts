import { minutesLate } from '@nemawashi/core'

const msOf = (instant: string | null) => (instant === null ? null : Date.parse(instant))

/** How late something was finished, in minutes; zero in time, where nothing was due, or while it is not finished. */
export const minutesLateOf = ({ dueAt, finishedAt }: { readonly dueAt: string | null; readonly finishedAt: string | null }): number =>
  minutesLate(msOf(dueAt), msOf(finishedAt))
