/** A line that an inspection is about to ask. */
export interface PointLine {
  /** What is asked: the same text for the same characteristic within the same limits. */
  readonly question: string
  readonly sampleSize: number
  readonly accept: number
  /** Its sample follows a history of its own (switching rules), and can stand in for no other. */
  readonly isByHistory: boolean
  readonly isRequired: boolean
  readonly isDecisive: boolean
}

/** What a control point asks of the same pieces at the same moment as others. */
export interface Ask<L extends PointLine> {
  readonly id: string
  readonly isGate: boolean
  readonly holds: 'all' | 'sample'
  readonly lines: readonly L[]
}

export interface AskedOnce<L extends PointLine> {
  readonly id: string
  /** What it asks, with whatever else asks the same. */
  readonly lines: readonly (L & {
    readonly alsoFor: readonly { readonly id: string; readonly sampleSize: number }[]
    /** Lines of those that ask the same with another sample: each is judged on its own, so that nothing passes that one of them refuses. */
    readonly others: readonly { readonly id: string; readonly line: L }[]
  })[]
  /** What another one asks in its stead. */
  readonly leftOut: readonly { readonly line: L; readonly askedBy: string }[]
}

/** What keeps the most from going on asks first: a gate before none, and of gates one that holds all before one that holds the sample. */
const weight = ({ isGate, holds }: Pick<Ask<PointLine>, 'isGate' | 'holds'>) => (isGate ? (holds === 'all' ? 0 : 1) : 2)

/** In the order in which they ask; of equals the one that is given first. */
export function heaviestFirst<A extends Pick<Ask<PointLine>, 'isGate' | 'holds'>>(asks: readonly A[]): A[] {
  return [...asks].sort((a, b) => weight(a) - weight(b))
}

/** The larger sample; of two that are as large the one that accepts less. */
function larger<L extends PointLine>(a: L, b: L): L {
  if (a.sampleSize !== b.sampleSize) return a.sampleSize > b.sampleSize ? a : b
  return b.accept < a.accept ? b : a
}

/**
 * A line that several control points ask of the same pieces is asked once: by the one whose consequence is the heaviest, with the larger
 * sample, required and decisive where any of them says so; every plan is judged on its own first pieces. The order in which they are given decides only between equals.
 * Lines whose sample follows the history of their own plan are asked by each. Common practice.
 * Shape: Ask[] → one AskedOnce for each, in their order; every question is asked by exactly one of those that ask it.
 */
export function mergeDuplicateLines<L extends PointLine>(asks: readonly Ask<L>[]): AskedOnce<L>[] {
  const askers = new Map<string, { by: string; all: { id: string; line: L }[] }>()
  for (const { id, lines } of heaviestFirst(asks)) {
    for (const line of lines) {
      if (line.isByHistory) continue
      const known = askers.get(line.question)
      if (known) known.all.push({ id, line })
      else askers.set(line.question, { by: id, all: [{ id, line }] })
    }
  }
  return asks.map(({ id, lines }) => {
    const leftOut: { line: L; askedBy: string }[] = []
    const kept = lines.flatMap((line) => {
      const asker = line.isByHistory ? undefined : askers.get(line.question)
      if (!asker) return [{ ...line, alsoFor: [], others: [] }]
      if (asker.by !== id) {
        leftOut.push({ line, askedBy: asker.by })
        return []
      }
      const alsoFor = asker.all.filter((other) => other.id !== id).map((other) => ({ id: other.id, sampleSize: other.line.sampleSize }))
      const isRequired = asker.all.some((other) => other.line.isRequired)
      const isDecisive = asker.all.some((other) => other.line.isDecisive)
      const chosen = asker.all.map((other) => other.line).reduce(larger)
      const others = asker.all.filter((other) => other.line !== chosen)
      return [{ ...chosen, isRequired, isDecisive, alsoFor, others }]
    })
    return { id, lines: kept, leftOut }
  })
}
