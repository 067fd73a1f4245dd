/** The colours of what is printed, as the pages have them by day. */
export const inks = {
  ink: '#1E2A3A',
  soft: '#5B6675',
  rule: '#DAD3C3',
  seal: '#B8322A',
  conforming: '#1D6F63',
  zone: '#DDECE8',
  nonconforming: '#B8322A',
  marginal: '#A86A10',
  notJudged: '#7A8190',
} as const
