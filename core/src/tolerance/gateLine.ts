import type { AskedLine } from './answers'

/** A measured line that tests ask things of: 12.5 mm, ± 0.05. */
export const gateLine: AskedLine = {
  name: 'Gate',
  kind: 'measured',
  unit: 'mm',
  resolution: '0.01',
  nominal: '12.5',
  lower: '12.45',
  upper: '12.55',
  band: null,
  rounding: null,
  recording: 'pieces',
  answers: [],
  faultCodes: [],
  noteType: null,
}
