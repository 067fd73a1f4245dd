/** What becomes of what an inspection finds conforming: somebody decides and seals it, or it is free with the finding. */
export const whenConformings = ['decide', 'free'] as const
export type WhenConforming = (typeof whenConformings)[number]
export const whenConformingWords: Readonly<Record<WhenConforming, string>> = {
  decide: 'require a decision: somebody decides, and seals it',
  free: 'release at once, without a decision',
}

/** Where its lines are answered: at the bench, or on the spot, beside the goods. */
export const answerPlaces = ['bench', 'spot'] as const
export type AnswerPlace = (typeof answerPlaces)[number]

/**
 * What a gate keeps goods from that came in, back, or from another place: from being put away; or they may lie in a store, on hold, and are
 * neither used, picked nor sent before their decision.
 */
export const keptFroms = ['putAway', 'use'] as const
export type KeptFrom = (typeof keptFroms)[number]

/** What follows from the finding of an inspection, as its control point says and it was opened with. */
export interface Consequence {
  readonly whenConforming: WhenConforming
  /** What to do when it is not acceptable; empty where nothing is said. */
  readonly advice: string
  /** The plan that is asked in addition when it is not acceptable; null for none. */
  readonly followPlanId: string | null
  readonly answeredAt: AnswerPlace
  /** People, by their ids, who are told when it is not acceptable. */
  readonly tells: readonly string[]
  /** What a gate keeps its pieces from. */
  readonly keepsFrom: KeptFrom
  /** Whether nonconforming pieces of the sample are set aside: they are not released with the others, whatever becomes of these. */
  readonly setsAside: boolean
}

/** What is meant where nothing is said. */
export const usualConsequence: Consequence = {
  whenConforming: 'decide',
  advice: '',
  followPlanId: null,
  answeredAt: 'bench',
  tells: [],
  keepsFrom: 'putAway',
  setsAside: false,
}

/**
 * Whether a finding lets its pieces go by itself: it is acceptable, its control point says so, nothing was skipped that somebody would
 * have to answer for, and no piece of it is set aside.
 */
export function freesItself(
  { whenConforming }: Pick<Consequence, 'whenConforming'>,
  verdict: string,
  { skips, setAside }: { readonly skips: number; readonly setAside: number },
): boolean {
  return whenConforming === 'free' && verdict === 'acceptable' && skips === 0 && setAside === 0
}

/** How many pieces of what is held can be released at most: those that were found nonconforming and set aside cannot. */
export function releasable(held: number, setAside: number): number {
  return Math.max(0, held - setAside)
}
