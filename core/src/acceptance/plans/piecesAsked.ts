import { isNonconforming, type Mark } from '../../tolerance/judgeReading'
import type { Stage } from './stagedPlan'

/** What of a line says how many of its pieces are asked for. */
export interface AskedSample {
  readonly recording: 'pieces' | 'summary'
  readonly sampleSize: number
  /** Stages of a double or multiple plan; the pieces are taken in their order. */
  readonly stages?: readonly Stage[] | null
  readonly isDecisive: boolean
  /** Does △ count as conforming? It does unless the characteristic says otherwise. */
  readonly marginalConforms?: boolean
}

/** The answer on a piece: its mark, and how much it adds where nonconformities are counted and not pieces. */
export interface PieceAnswer {
  readonly mark: Mark
  readonly nonconformities?: number | null
}

/** How much an answer counts against its line. */
export function countAgainst({ mark, nonconformities }: PieceAnswer, marginalConforms = true): number {
  return nonconformities ?? (isNonconforming(mark, marginalConforms) ? 1 : 0)
}

/**
 * Pieces of a line that are asked for now, counted from the first: one cell of a summary, the whole of a single sample, and of a
 * double or multiple plan the stages that are needed so far. The bench, the finding and the report all ask here.
 * Shape: line, answer of a piece (1-based) or null → count. A decisive line is asked for as a whole, as it accepts nothing.
 */
export function piecesAsked(line: AskedSample, answerOf: (piece: number) => PieceAnswer | null): number {
  if (line.recording === 'summary') return 1
  if (!line.stages || line.stages.length < 2 || line.isDecisive) return line.sampleSize
  let piece = 0
  let end = 0
  let found = 0
  for (const { sampleSize, accept, reject } of line.stages) {
    end += sampleSize
    while (piece < end) {
      const answer = answerOf(++piece)
      // A stage that is not whole is asked for to its end, whatever stands in the rest of it.
      if (answer === null) return end
      found += countAgainst(answer, line.marginalConforms)
    }
    if (found >= reject || (accept !== null && found <= accept)) return end
  }
  return end
}
