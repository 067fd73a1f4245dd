import { nextStandings, standingAfter, type Disposition, type Standing } from './standings'

/** What a decision on a lot has to know of it. */
export interface Judged {
  /** Whether an inspection of the lot was not acceptable. */
  readonly hasFailed: boolean
  /** It was made here: there is no supplier that it could go back to. */
  readonly isMade: boolean
  /** Every piece was looked at by itself: the good ones of what failed are released, and only the others would be a concession. */
  readonly isSorted?: boolean
}

/** Standings of pieces that are still in the plant, or in its reach. */
export const standingsInPlant: readonly Standing[] = ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped']

/** Standings of pieces that can still be looked at: in the plant, and not scrap. */
export const standingsToInspect: readonly Standing[] = standingsInPlant.filter((standing) => standing !== 'scrapped')

/**
 * How many of the pieces that are held may be released without a concession. Of an acceptable lot all but those that are set aside; of one that
 * failed none, unless each was looked at: then the good ones.
 * Shape: counts → count. @param nonconforming pieces that were found nonconforming; null where not every piece was looked at
 */
export function releasableHeld(
  held: number,
  { hasFailed, setAside, nonconforming }: { hasFailed: boolean; setAside: number; nonconforming: number | null },
): number {
  if (hasFailed) return nonconforming === null ? 0 : Math.max(0, held - nonconforming)
  return Math.max(0, held - setAside)
}

const all: readonly Disposition[] = ['release', 'concession', 'quarantine', 'returnToSupplier', 'scrap']

/**
 * What can be decided on pieces in a standing. What failed is not simply released, unless its pieces were sorted: using it all the same is a concession. Pieces that
 * are free already can only be taken back, or their use become a concession once the lot has failed.
 */
export function dispositionsFor(standing: Standing, { hasFailed, isMade, isSorted = false }: Judged): Disposition[] {
  return all.filter((disposition) => {
    if (disposition === 'returnToSupplier' && isMade) return false
    if (disposition === 'release' && hasFailed && !isSorted) return false
    if (disposition === 'release' && standing === 'released') return false
    if (disposition === 'concession' && standing === 'released' && !hasFailed) return false
    return nextStandings[standing].includes(standingAfter[disposition]) && (standing !== 'quarantined' || disposition !== 'quarantine')
  })
}

/** Who is about to sign, as far as a decision asks. */
export interface Signer {
  readonly isManager: boolean
  readonly isInspector: boolean
}

/** Whether a finding is somebody's to decide on: always a quality manager's; an inspector's where it is acceptable and nothing is set aside. */
export function mayDecideOn({ isManager, isInspector }: Signer, { hasFailed, setAside }: { hasFailed: boolean; setAside: number }): boolean {
  return isManager || (isInspector && !hasFailed && setAside === 0)
}

/** Whether a choice is somebody's: a plain release is an inspector's, too, and everything else a quality manager's alone. */
export function mayChoose({ isManager, isInspector }: Signer, disposition: Disposition): boolean {
  return isManager || (isInspector && disposition === 'release')
}

/** Whether a row of a decision has to say why: all but the plain release of what is acceptable. */
export function needsReason(disposition: Disposition): boolean {
  return disposition !== 'release'
}

/** Whether the disposition lets pieces go on. */
export function frees(disposition: Disposition): boolean {
  return standingAfter[disposition] === 'released'
}

/**
 * How many of the pieces that are freed now are used under concession. A gate that conceded some of them stays heard when the last
 * gate frees them: as nobody knows which pieces each meant, those of several gates are added up, never more than are freed.
 * Shape: counts → count.
 */
export function concededOf(freed: number, concededByGates: readonly number[]): number {
  return Math.min(
    freed,
    concededByGates.reduce((sum, count) => sum + count, 0),
  )
}
