import { checkLotSize } from '../../numeric/lotSize'

export const inspectionLevels = ['S-1', 'S-2', 'S-3', 'S-4', 'I', 'II', 'III'] as const
export type InspectionLevel = (typeof inspectionLevels)[number]

export const codeLetters = ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H', 'J', 'K', 'L', 'M', 'N', 'P', 'Q', 'R'] as const
export type CodeLetter = (typeof codeLetters)[number]

/** MIL-STD-105E, Table I, sample size code letters: largest lot of the row, then levels S-1, S-2, S-3, S-4, I, II, III. */
const rows: readonly (readonly [number, string])[] = [
  [8, 'AAAAAAB'],
  [15, 'AAAAABC'],
  [25, 'AABBBCD'],
  [50, 'ABBCCDE'],
  [90, 'BBCCCEF'],
  [150, 'BBCDDFG'],
  [280, 'BCDEEGH'],
  [500, 'BCDEFHJ'],
  [1_200, 'CCEFGJK'],
  [3_200, 'CDEGHKL'],
  [10_000, 'CDFGJLM'],
  [35_000, 'CDFHKMN'],
  [150_000, 'DEGJLNP'],
  [500_000, 'DEGJMPQ'],
  [Infinity, 'DEHKNQR'],
]

/**
 * Sample size code letter for a lot.
 * Source: MIL-STD-105E, Table I. A lot of one is read in the first row (2 to 8).
 * @throws {CoreError} `lot_size_invalid`.
 */
export function codeLetterFor(lotSize: number, level: InspectionLevel): CodeLetter {
  checkLotSize(lotSize)
  const row = rows.find(([largest]) => lotSize <= largest)
  return (row?.[1].charAt(inspectionLevels.indexOf(level)) ?? 'R') as CodeLetter
}
