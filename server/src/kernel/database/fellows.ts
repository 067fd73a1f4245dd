/** What a process tells the others that serve the same plant. */
export interface Word {
  readonly about: string
  readonly [fact: string]: unknown
}

/** The other processes that serve the same plant. */
export interface Fellows {
  /**
   * Whether this process does what one of them does for all. Asked every now and then: when the one that does it ends, another one takes it up.
   */
  leads(): Promise<boolean>
  /** Tells the others something that is worth nothing after a restart. Nothing waits for it, and it may be lost. */
  tell(word: Word): void
  /** What the others tell. */
  onTold(listen: (word: Word) => void): void
}

/** For a plant in a file: there are no others. */
export const noFellows: Fellows = { leads: async () => true, tell: () => undefined, onTold: () => undefined }
