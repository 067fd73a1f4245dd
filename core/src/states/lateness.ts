/** Whether what was due has not been done by a moment; what has no time by which it is due is never late. Shape: milliseconds of one clock. */
export const isLate = (dueMs: number | null, atMs: number): boolean => dueMs !== null && dueMs < atMs

/** How late something was done, in whole minutes and at least one; zero in time, or where nothing was due. Shape: milliseconds of one clock → minutes. */
export const minutesLate = (dueMs: number | null, doneMs: number | null): number =>
  dueMs === null || doneMs === null || !isLate(dueMs, doneMs) ? 0 : Math.max(1, Math.floor((doneMs - dueMs) / 60_000))

/** How late, in words: `40 min late`, `2 h 10 min late`, `3 days 4 h late`; empty for zero. */
export function lateWords(minutes: number): string {
  if (minutes === 0) return ''
  const [days, hours, rest] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60), minutes % 60]
  const parts =
    days > 0
      ? [`${days} ${days === 1 ? 'day' : 'days'}`, hours > 0 ? `${hours} h` : '']
      : [hours > 0 ? `${hours} h` : '', rest > 0 ? `${rest} min` : '']
  return `${parts.filter(Boolean).join(' ')} late`
}
