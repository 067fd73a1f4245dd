import { isOfEvent, type Sublot } from './sublot'

/** Which pieces of a lot are meant by a hold, an inspection, a decision: by identity, and never by the place where they lie. */
export interface PiecesMeant {
  /** Those of a container, or the piece with a serial number; null for whatever they are in. */
  readonly containerId: string | null
  /** Those that an operation event set apart: of a dispatch, a return, a transfer; null for all of the lot. */
  readonly eventId: string | null
}

/** All of a lot. */
export const wholeLot: PiecesMeant = { containerId: null, eventId: null }

/**
 * Whether a hold is on what lies at a spot of its lot: one on the lot reaches all of it, one on a container, a serial number or the pieces of an
 * event those alone. What lies loose is in no container.
 */
export function holdReaches(hold: PiecesMeant, spot: { readonly containerId: string | null; readonly sublot: Sublot }): boolean {
  return (hold.containerId === null || hold.containerId === spot.containerId) && (hold.eventId === null || isOfEvent(spot.sublot, hold.eventId))
}
