/** What the workshop's chart can show, with the words of its button and of its caption. */
export const riskViews = {
  accepted: { title: 'Accepted (OC)', caption: 'operating characteristic: how often a lot of each quality is accepted.' },
  outgoing: {
    title: 'Outgoing (AOQ)',
    caption: 'average outgoing quality: what passes on average, when refused lots are sorted and what is found replaced.',
  },
  pieces: { title: 'Pieces (ASN)', caption: 'average sample number: pieces looked at on average.' },
  total: { title: 'Sorted (ATI)', caption: 'average total inspection: pieces looked at when refused lots are sorted whole.' },
} as const
export type RiskView = keyof typeof riskViews
