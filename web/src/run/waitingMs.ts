/**
 * How often a page of Run asks again while something waits for somebody else: a check that is recorded, a decision, or a check that comes up by the
 * clock of a step. Nobody at the page would tell it.
 */
export const waitingMs = 5_000
