import { isLate as isLateAt } from '@nemawashi/core'

/** Whether the time by which something is due has passed by now; what has none is never late. */
export const isLate = ({ dueAt }: { readonly dueAt: string | null }, now = Date.now()): boolean =>
  isLateAt(dueAt === null ? null : Date.parse(dueAt), now)
