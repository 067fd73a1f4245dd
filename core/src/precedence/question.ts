/** Limits that a line keeps for itself, as they are written, and the revision of the library that they were taken from. */
interface OwnLimits {
  readonly nominal: string | null
  readonly lower: string | null
  readonly upper: string | null
  readonly fromRevision: number
}

/** What of a plan's line says within which limits it asks. */
export interface LimitedLine {
  /** Limits of single parts. */
  readonly targets: readonly (Omit<OwnLimits, 'fromRevision'> & { readonly partId: string })[]
  /** Limits of the line apart from the library's; null where it follows the library. */
  readonly detached: OwnLimits | null
}

/** The limits that a line keeps for itself on a part: those of the part before those of the line; null where it follows the library. */
export function ownLimits({ targets, detached }: LimitedLine, partId: string | null, fromRevision: number): OwnLimits | null {
  const target = targets.find((entry) => entry.partId === partId)
  if (!target) return detached
  const { nominal, lower, upper } = target
  return { nominal, lower, upper, fromRevision }
}

/** What a line asks: the same text for the same characteristic at the same operation within the same limits. */
export function questionOf(operationId: string, characteristicId: string, limits: Omit<OwnLimits, 'fromRevision'> | null): string {
  return JSON.stringify([operationId, characteristicId, limits === null ? null : [limits.nominal, limits.lower, limits.upper]])
}
