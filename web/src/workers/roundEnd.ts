const roundEnds = [0.1, 0.2, 0.5, 1, 2, 3, 4, 5, 6, 8, 10, 15, 20, 30, 40, 60, 80, 100]

/** A round end of the quality axis that shows a curve flatten out. Shape: per cent that has to be in sight → per cent. */
export function roundEnd(percent: number): number {
  return roundEnds.find((end) => end >= Math.min(100, percent)) ?? 100
}
