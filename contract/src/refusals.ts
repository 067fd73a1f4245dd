import { z } from 'zod'
import { roles, type Endpoint } from './wire/endpoint'
import { coreErrors, type ErrorCode } from './wire/errors'

/*
 * What an address can refuse with, for the API's documentation. Most of it follows from the address itself: who may call it, whether it
 * changes something, whether it names a thing. The rest is said here, by address. The server's tests answer 500 to a refusal that is
 * not expected, so that this cannot fall behind.
 */

/** Addresses that take limits, tolerances, sampling rules or answers refuse whatever the core refuses. */
const computed = Object.keys(coreErrors) as ErrorCode[]

const deciding: readonly ErrorCode[] = [
  'movement_exceeds_balance',
  'movement_not_allowed',
  'password_wrong',
  'place_missing',
  'quantity_invalid',
  'reason_missing',
  'release_is_concession',
  'set_aside',
  'split_does_not_add_up',
  'too_many_attempts',
]

/** What moves pieces can meet these. */
const ledgering: readonly ErrorCode[] = ['movement_exceeds_balance', 'movement_not_allowed', 'quantity_invalid']

/** What opens inspections and moves pieces can meet these. */
const opening: readonly ErrorCode[] = ['nothing_released', 'place_missing', 'quantity_invalid', 'lot_size_invalid', ...computed]

/** What a control point can be refused for. */
const attaching: readonly ErrorCode[] = [
  'not_quick',
  'already_exists',
  'moment_not_there',
  'interval_missing',
  'days_reversed',
  'nothing_released',
  'not_on_the_way',
  'reference_unknown',
  ...computed,
]

/** What the register refuses of the numbers of a gauge. */
const gaugeRefusals: readonly ErrorCode[] = [
  'not_a_number',
  'number_too_long',
  'limits_reversed',
  'resolution_not_positive',
  'interval_invalid',
  'day_invalid',
]

const own: Readonly<Record<string, readonly ErrorCode[]>> = {
  'POST /api/v1/session': ['second_factor_needed', 'second_factor_wrong', 'sign_in_failed', 'too_many_attempts'],
  'POST /api/v1/session/second-factor': ['second_factor_on'],
  'PUT /api/v1/session/second-factor': ['second_factor_on', 'second_factor_wrong', 'too_many_attempts'],
  'PUT /api/v1/session/password': ['password_guessable', 'password_wrong', 'too_many_attempts'],
  'POST /api/v1/first-administrator': ['already_set_up', 'password_guessable', 'setup_code_wrong', 'too_many_attempts'],
  'POST /api/v1/people': ['already_exists', 'password_guessable'],
  'PUT /api/v1/people/:id': ['already_exists', 'password_guessable', 'still_in_use'],
  'POST /api/v1/parts': ['already_exists', 'reference_unknown', 'routing_order'],
  'POST /api/v1/measure-units': ['factor_invalid', 'not_a_number', 'number_too_long'],
  'POST /api/v1/gauges': ['already_exists', 'reference_unknown', 'unit_unknown', ...gaugeRefusals],
  'PUT /api/v1/gauges/:id': ['already_exists', 'reference_unknown', 'unit_unknown', ...gaugeRefusals],
  'POST /api/v1/gauges/:id/instrument': ['gauge_unfit'],
  'POST /api/v1/instrument/values': ['instrument_unknown'],
  'POST /api/v1/gauges/:id/state': ['already_retired', 'role_missing'],
  'POST /api/v1/inspections/:id/evidence': [
    ...(['evidence_empty', 'count_invalid', 'place_invalid'] satisfies ErrorCode[]),
    ...(['inspection_closed', 'inspection_taken', 'piece_unknown', 'reference_unknown', 'role_missing'] satisfies ErrorCode[]),
  ],
  'POST /api/v1/evidence/:id/withdraw': ['inspection_closed', 'inspection_taken', 'role_missing'],
  'POST /api/v1/inspections/:id/made-since/hold': ['inspection_closed', 'inspection_taken', 'nothing_made_since', ...ledgering],
  'POST /api/v1/inspections/:id/gauges': ['gauge_unfit', 'inspection_closed', 'inspection_taken', 'reason_missing', 'reference_unknown'],
  'PUT /api/v1/measure-units/:id': ['already_exists', 'still_in_use', 'factor_invalid', 'not_a_number', 'number_too_long'],
  'PUT /api/v1/parts/:id': ['already_exists', 'reference_unknown', 'routing_order', 'still_in_use'],
  'POST /api/v1/characteristics': ['already_exists', 'reference_unknown', ...computed],
  'PUT /api/v1/characteristics/:id': ['not_a_draft', 'reference_unknown', ...computed],
  'POST /api/v1/characteristics/:id/release': ['not_a_draft', 'nothing_released'],
  'POST /api/v1/characteristics/:id/revise': ['draft_exists'],
  'POST /api/v1/characteristics/:id/discard': ['not_a_draft', 'still_in_use'],
  'POST /api/v1/characteristics/:id/retire': ['already_retired', 'still_in_use'],
  'POST /api/v1/plans': ['already_exists', 'reference_unknown', ...computed],
  'PUT /api/v1/plans/:id': ['not_a_draft', 'already_exists', 'reference_unknown', ...computed],
  'POST /api/v1/plans/:id/release': ['not_a_draft', 'plan_without_lines', 'nothing_released', 'not_measured'],
  'POST /api/v1/plans/:id/revise': ['draft_exists'],
  'POST /api/v1/plans/:id/discard': ['not_a_draft', 'still_in_use'],
  'POST /api/v1/plans/:id/retire': ['already_retired', 'still_in_use'],
  'POST /api/v1/library/read': ['table_unreadable'],
  'POST /api/v1/documents': ['kept_too_much'],
  'POST /api/v1/library/import': ['import_has_errors', 'kept_too_much'],
  'POST /api/v1/library/imports/:id/undo': ['import_moved_on'],
  'POST /api/v1/library/release': ['not_found', 'stale_version', 'not_a_draft', 'nothing_released'],
  'POST /api/v1/plan-exchange/import': ['import_has_errors', 'table_unreadable'],
  'POST /api/v1/plan-exchange/imports/:id/undo': ['import_moved_on'],
  'PUT /api/v1/parts/:id/open-stops': ['not_on_the_way'],
  'POST /api/v1/control-points': [...attaching, 'day_past'],
  'POST /api/v1/control-points/:id/successor': [...attaching, 'already_retired', 'day_past'],
  'GET /api/v1/rehearsal': ['nothing_released', 'quantity_invalid', 'not_found', 'reference_unknown', ...computed],
  'PUT /api/v1/control-points/:id': [...attaching, 'already_retired', 'day_past'],
  'POST /api/v1/control-points/:id/retire': ['already_retired'],
  'POST /api/v1/production-orders': ['reference_unknown', 'nothing_to_make', 'quantity_invalid', 'lot_size_invalid'],
  'POST /api/v1/production-orders/:id/release': ['order_not_so_far', 'serials_missing', 'already_exists'],
  'POST /api/v1/production-orders/:id/components': [
    'place_not_for',
    'standing_forbids',
    'order_not_so_far',
    'not_found',
    'quantity_invalid',
    'movement_exceeds_balance',
    'movement_not_allowed',
  ],
  'POST /api/v1/production-orders/:id/start': ['order_not_so_far', 'gate_closed', ...opening],
  'POST /api/v1/production-orders/:id/report': [
    'order_not_so_far',
    'gate_closed',
    'step_does_not_add_up',
    'step_paused',
    'serials_missing',
    'step_not_paused',
    'movement_exceeds_balance',
    ...opening,
  ],
  'POST /api/v1/production-orders/:id/confirm': [
    'order_not_so_far',
    'gate_closed',
    'step_does_not_add_up',
    'step_paused',
    'serials_missing',
    ...opening,
  ],
  'POST /api/v1/production-orders/:id/cancel': ['order_not_so_far', 'quantity_invalid'],
  'POST /api/v1/production-orders/:id/finish': ['order_not_so_far', 'gate_closed', 'place_missing', 'quantity_invalid'],
  'POST /api/v1/dispatches': ['reference_unknown', 'standing_forbids', 'movement_exceeds_balance', 'movement_not_allowed', ...opening],
  'POST /api/v1/planned-dispatches': ['reference_unknown', ...opening],
  'POST /api/v1/dispatches/:id/pick': [
    'already_sent',
    'already_picked',
    'gate_closed',
    'not_planned',
    'reference_unknown',
    'standing_forbids',
    'movement_exceeds_balance',
    'movement_not_allowed',
    ...opening,
  ],
  'POST /api/v1/dispatches/:id/send': [
    'already_sent',
    'not_picked',
    'standing_forbids',
    'gate_closed',
    'nothing_there',
    'place_missing',
    'quantity_invalid',
    'movement_exceeds_balance',
  ],
  'POST /api/v1/dispatches/:id/cancel': ['already_sent', 'quantity_invalid'],
  'POST /api/v1/dispatches/:id/returns': ['not_sent', 'movement_exceeds_balance', ...opening],
  'POST /api/v1/deliveries': [
    'not_as_ordered',
    'already_exists',
    'already_received',
    'containers_do_not_add_up',
    'nothing_released',
    'place_missing',
    'quantity_invalid',
    'reference_unknown',
    'not_expected',
    'gate_closed',
    'serials_missing',
  ],
  'POST /api/v1/lots/:id/finer-standing': ['reference_unknown', 'nothing_there'],
  'POST /api/v1/inspections/:id/spot': [
    'not_on_spot',
    'answers_missing',
    'inspection_closed',
    'inspection_taken',
    'nothing_released',
    'cell_already_answered',
  ],
  'POST /api/v1/expected-deliveries': ['already_announced', 'reference_unknown', ...opening],
  'POST /api/v1/expected-deliveries/:id/register': ['not_expected', ...opening],
  'POST /api/v1/expected-deliveries/:id/turn-away': ['not_expected'],
  'POST /api/v1/purchase-orders': ['already_exists', 'reference_unknown', 'quantity_invalid'],
  'POST /api/v1/deliveries/:id/papers': ['reference_unknown'],
  'POST /api/v1/people/:id/token': ['not_a_feed'],
  'POST /api/v1/feed/events/:id/again': ['event_not_aside'],
  'POST /api/v1/feed/events/:id/dismiss': ['event_not_aside'],
  'POST /api/v1/delivery-preview': ['reference_unknown', 'place_missing', ...computed],
  'POST /api/v1/deliveries/:id/correction-check': ['reference_unknown', 'nothing_corrected'],
  'POST /api/v1/deliveries/:id/corrections': [
    'containers_do_not_add_up',
    'correction_too_late',
    'serials_missing',
    'movement_exceeds_balance',
    'movement_not_allowed',
    'nothing_corrected',
    'nothing_released',
    'place_missing',
    'quantity_invalid',
    'reference_unknown',
  ],
  'POST /api/v1/lots/:id/put-away': [
    'gate_closed',
    'movement_exceeds_balance',
    'movement_not_allowed',
    'place_missing',
    'place_not_for',
    'quantity_invalid',
    'reference_unknown',
  ],
  'POST /api/v1/inspections/:id/readings': [
    'inspection_taken',
    'cell_already_answered',
    'inspection_closed',
    'outside_not_confirmed',
    'piece_unknown',
    'reference_unknown',
    'gauge_missing',
    'sent_value_other',
    'sent_value_used',
    'gauge_unfit',
    ...computed,
  ],
  'POST /api/v1/inspections/:id/finish': ['inspection_taken', 'answers_missing', 'inspection_closed', 'skip_reason_missing', 'nothing_released'],
  'POST /api/v1/inspections/:id/adaptations': [
    'inspection_taken',
    'acceptance_number_invalid',
    'inspection_closed',
    'not_adaptable',
    'sample_size_invalid',
  ],
  'POST /api/v1/lots/:id/inspections': ['reference_unknown', 'nothing_there', ...opening],
  'POST /api/v1/inspections/:id/take': ['inspection_closed', 'inspection_taken'],
  'POST /api/v1/inspections/:id/put-back': ['inspection_taken'],
  'PUT /api/v1/inspections/:id/assignment': ['inspection_closed', 'reference_unknown', 'role_missing'],
  'PUT /api/v1/put-away-rules': ['not_found', 'place_not_for', 'reference_unknown', 'rules_in_a_circle', 'stale_version'],
  'POST /api/v1/transfers': [
    'gate_closed',
    'movement_exceeds_balance',
    'movement_not_allowed',
    'not_found',
    'place_not_for',
    'reference_unknown',
    ...opening,
  ],
  'POST /api/v1/acceptance-stops/:id/answer': ['stop_ended'],
  'POST /api/v1/inspections/:id/reopen': ['already_decided', 'inspection_not_finished'],
  'POST /api/v1/inspections/:id/cancel': ['inspection_taken', 'inspection_closed', 'role_missing'],
  'POST /api/v1/inspections/:id/decision': [...deciding, 'already_decided', 'decision_beyond_role', 'inspection_not_finished'],
  'POST /api/v1/inspections/:id/decision-check': ['already_decided', 'decision_beyond_role', 'inspection_not_finished'],
  'POST /api/v1/lots/:id/decisions': [...deciding, 'decision_superseded'],
  'POST /api/v1/lots/:id/decision-check': ['decision_superseded'],
}
const always: readonly ErrorCode[] = ['input_invalid', 'internal']
const withBody: readonly ErrorCode[] = ['json_invalid', 'body_too_large']
const changing: readonly ErrorCode[] = [
  'origin_foreign',
  'person_changed',
  'key_reused',
  'storage_failed',
  'storage_busy',
  'clock_wrong',
  'number_taken',
]

function fieldsOf(schema: z.ZodType): readonly string[] {
  return schema instanceof z.ZodObject ? Object.keys(schema.shape) : []
}

/** The codes with which an address can refuse. Shape: Endpoint → codes, each once. */
export function refusalsOf(endpoint: Endpoint): ErrorCode[] {
  const { method, path, access, params, body } = endpoint
  const key = `${method} ${path}`
  const isCoded = method === 'POST' && access !== 'anyone' && fieldsOf(body).includes('code')
  const codes: ErrorCode[] = [
    ...always,
    ...(access === 'anyone' ? [] : (['signed_out'] as const)),
    ...(access === 'anyone' || access === 'signedIn' || access.length === roles.length ? [] : (['role_missing'] as const)),
    ...(access === 'anyone' || endpoint.isWhileOwing ? [] : (['password_first', 'second_factor_first'] as const)),
    ...(endpoint.isForJustSignedIn ? (['sign_in_old'] as const) : []),
    ...(method === 'POST' || method === 'PUT' ? withBody : []),
    ...(method === 'GET' ? [] : changing),
    // Made by a thread, and so many may wait for one.
    ...(path.endsWith('.pdf') || path === '/api/v1/audit-verification' ? (['too_busy'] as const) : []),
    ...(fieldsOf(params).includes('id') ? (['not_found'] as const) : []),
    ...(fieldsOf(body).includes('version') ? (['stale_version'] as const) : []),
    ...(isCoded ? (['already_exists'] as const) : []),
    ...(method === 'PUT' && !(key in own) ? (['already_exists', 'still_in_use'] as const) : []),
    ...(own[key] ?? []),
  ]
  return [...new Set(codes)]
}
