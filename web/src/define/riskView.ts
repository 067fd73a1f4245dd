/** What the workshop's chart can show, with the words of its button and of its caption. */
export const riskViews = {
  accepted: { title: 'Accepted', caption: 'how often a lot of each quality is accepted.' },
  outgoing: { title: 'Goes out', caption: 'what passes on average, when refused lots are sorted and what is found replaced.' },
  pieces: { title: 'Pieces a lot', caption: 'pieces looked at on average.' },
  total: { title: 'With sorting', caption: 'pieces looked at when refused lots are sorted whole.' },
} as const
export type RiskView = keyof typeof riskViews
