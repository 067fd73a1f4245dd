/** What the core can refuse, each with a stable code. The contract's catalogue gives every code its help. */
export const coreErrorCodes = [
  'not_a_number',
  'number_too_long',
  'too_many_decimals',
  'limits_missing',
  'limits_reversed',
  'nominal_outside_limits',
  'resolution_not_positive',
  'tolerance_not_understood',
  'unit_unknown',
  'lot_size_invalid',
  'sample_size_invalid',
  'percent_invalid',
  'aql_not_in_series',
  'acceptance_number_invalid',
  'fraction_invalid',
  'quantity_invalid',
  'movement_exceeds_balance',
  'movement_not_allowed',
  'split_does_not_add_up',
  'no_crossing',
  'acceptance_not_below_rejection',
  'stages_shrink',
  'risk_invalid',
  'qualities_reversed',
  'design_not_found',
  'acceptance_constant_invalid',
  'spread_not_positive',
  'not_measured',
  'not_finite',
  'clearance_invalid',
  'plan_not_tabulated',
  'frequency_invalid',
  'summary_impossible',
  'fit_unknown',
  'unit_mismatch',
  'factor_invalid',
  'band_invalid',
  'answer_invalid',
  'rules_in_a_circle',
  'serials_not_understood',
  'interval_invalid',
  'day_invalid',
  'evidence_empty',
  'count_invalid',
  'place_invalid',
  'line_not_understood',
] as const

export type CoreErrorCode = (typeof coreErrorCodes)[number]
export type Facts = Readonly<Record<string, unknown>>

/** A refusal by the core: a stable code, the facts as fields, and a sentence that says what was received and what helps. */
export class CoreError extends Error {
  override readonly name = 'CoreError'
  constructor(
    readonly code: CoreErrorCode,
    message: string,
    readonly facts: Facts = {},
  ) {
    super(message)
  }
}
