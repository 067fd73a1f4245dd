import type { Standing } from '@nemawashi/core'

/** Colours of the standings. Each carries white text at 4.5 : 1; words always stand beside them. */
export const standingColours: Readonly<Record<Standing, string>> = {
  onHold: '#6A4A86',
  released: '#1D6F63',
  quarantined: '#B8322A',
  inRework: '#8A570C',
  rejected: '#8A2A22',
  scrapped: '#5B3A2A',
  returned: '#1E2A3A',
  shipped: '#27497A',
  used: '#5F6776',
  notArrived: '#6E6A60',
}
