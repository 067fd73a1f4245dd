/** What a machine side tells of a running step: pieces made, a set-up change, the last piece, a time that has passed, a pause and its end. */
export const reportKinds = ['pieces', 'setUp', 'lastPiece', 'timed', 'paused', 'resumed'] as const
export type ReportKind = (typeof reportKinds)[number]

/** A report at an instant, in milliseconds since any fixed one. */
export interface ReportAt {
  readonly kind: ReportKind
  readonly atMs: number
}

/** Whether the step stands still. Shape: reports in order → boolean. */
export function isPaused(reports: readonly Pick<ReportAt, 'kind'>[]): boolean {
  return reports.findLast(({ kind }) => kind === 'paused' || kind === 'resumed')?.kind === 'paused'
}

/** Minutes that a step has run since its start, without its pauses. Shape: ms, reports in order, ms → minutes. */
export function runningMinutes(startedMs: number, reports: readonly ReportAt[], nowMs: number): number {
  let run = 0
  let since: number | null = startedMs
  for (const { kind, atMs } of reports) {
    if (kind === 'paused' && since !== null) {
      run += atMs - since
      since = null
    }
    if (kind === 'resumed' && since === null) since = atMs
  }
  return Math.max(0, run + (since === null ? 0 : nowMs - since)) / 60_000
}

/** How often an interval comes up over all, where each is told as it passes: every 50 of 120 twice. Shape: count, interval > 0 → times. */
export function intervalsIn(count: number, every: number): number {
  return Math.floor(count / every)
}

/**
 * What an interval brings up between two counts: how much there is to look at since the last time it came up, or null where it has not come
 * up. `every` 50 between 40 and 120 comes up once, at 100, for 100: what it passed over is looked at with it.
 * Shape: counts before and after, interval > 0 → { at, since } or null.
 */
export function intervalPassed(before: number, after: number, every: number): { readonly at: number; readonly since: number } | null {
  const [last, now] = [Math.floor(before / every) * every, Math.floor(after / every) * every]
  return now > last ? { at: now, since: now - last } : null
}
