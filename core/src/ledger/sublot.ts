/**
 * A definite part of a lot (ISO 3534-2: sublot), named by the operation events that set its pieces apart from the rest: the dispatch that they
 * were picked for, the return that they came back with, the transfer that they were looked at on. The ids stand in the order of the events,
 * joined with `/`; the rest of the lot is the empty text. Pieces that lie loose are told apart by it and by nothing else.
 */
export type Sublot = string

/** What no event has set apart. */
export const restOfLot: Sublot = ''

/** The events that set a sublot apart, the first one first. */
export function eventsOf(sublot: Sublot): string[] {
  return sublot === restOfLot ? [] : sublot.split('/')
}

/** Whether the pieces are among those of an event. */
export function isOfEvent(sublot: Sublot, eventId: string): boolean {
  return eventsOf(sublot).includes(eventId)
}

/** The sublot of pieces that an event sets apart from others of theirs; pieces are of an event once. */
export function setApart(sublot: Sublot, eventId: string): Sublot {
  return isOfEvent(sublot, eventId) ? sublot : [...eventsOf(sublot), eventId].join('/')
}

/** The sublot of pieces that are set apart by these events alone: of the others they are told apart no longer. */
export function keepEvents(sublot: Sublot, isKept: (eventId: string) => boolean): Sublot {
  return eventsOf(sublot).filter(isKept).join('/')
}
