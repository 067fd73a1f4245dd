/** What of a line says how long it takes. */
export interface TimedLine {
  readonly sampleSize: number
  /** As the library says for one piece; null where it says nothing. */
  readonly minutesPerPiece: number | null
}

/**
 * Minutes that the lines of an inspection are planned with, rounded up to whole ones: pieces × minutes a piece, of a staged plan its
 * whole sample. A summary takes its pieces, too: somebody
 * counts them.
 * Shape: lines → minutes; null where no line says how long it takes, so that nothing is planned as if it took no time.
 */
export function plannedMinutes(lines: readonly TimedLine[]): number | null {
  const known = lines.filter(({ minutesPerPiece }) => minutesPerPiece !== null)
  if (known.length === 0) return null
  return Math.ceil(known.reduce((sum, { sampleSize, minutesPerPiece }) => sum + sampleSize * (minutesPerPiece ?? 0), 0))
}
