import { z } from 'zod'
import { roles, type Endpoint } from './wire/endpoint'
import { coreErrors, type ErrorCode } from './wire/errors'

/*
 * What an address can refuse with, for the API's documentation. Most of it follows from the address itself: who may call it, whether it
 * changes something, whether it names a thing. The rest is said here, by address. The server's tests answer 500 to a refusal that is
 * not foreseen, so that this cannot fall behind.
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

const own: Readonly<Record<string, readonly ErrorCode[]>> = {
  'POST /api/session': ['second_factor_needed', 'second_factor_wrong', 'sign_in_failed', 'too_many_attempts'],
  'POST /api/session/second-factor': ['second_factor_on'],
  'PUT /api/session/second-factor': ['second_factor_on', 'second_factor_wrong', 'too_many_attempts'],
  'PUT /api/session/password': ['password_guessable', 'password_wrong', 'too_many_attempts'],
  'POST /api/first-administrator': ['already_set_up', 'password_guessable', 'setup_code_wrong', 'too_many_attempts'],
  'POST /api/people': ['already_exists', 'password_guessable'],
  'PUT /api/people/:id': ['already_exists', 'password_guessable', 'still_in_use'],
  'POST /api/parts': ['already_exists', 'reference_unknown', 'routing_order'],
  'PUT /api/parts/:id': ['already_exists', 'reference_unknown', 'routing_order', 'still_in_use'],
  'POST /api/characteristics': ['already_exists', 'reference_unknown', ...computed],
  'PUT /api/characteristics/:id': ['not_a_draft', 'reference_unknown', ...computed],
  'POST /api/characteristics/:id/release': ['not_a_draft', 'nothing_released'],
  'POST /api/characteristics/:id/revise': ['draft_exists'],
  'POST /api/characteristics/:id/discard': ['not_a_draft', 'still_in_use'],
  'POST /api/characteristics/:id/retire': ['already_retired', 'still_in_use'],
  'POST /api/plans': ['already_exists', 'reference_unknown', ...computed],
  'PUT /api/plans/:id': ['not_a_draft', 'already_exists', 'reference_unknown', ...computed],
  'POST /api/plans/:id/release': ['not_a_draft', 'plan_without_lines', 'nothing_released', 'not_measured'],
  'POST /api/plans/:id/revise': ['draft_exists'],
  'POST /api/plans/:id/discard': ['not_a_draft', 'still_in_use'],
  'POST /api/plans/:id/retire': ['already_retired', 'still_in_use'],
  'POST /api/library/read': ['table_unreadable'],
  'POST /api/documents': ['kept_too_much'],
  'POST /api/library/import': ['import_has_errors', 'kept_too_much'],
  'POST /api/library/imports/:id/undo': ['import_moved_on'],
  'POST /api/library/release': ['not_found', 'stale_version', 'not_a_draft', 'nothing_released'],
  'POST /api/plan-exchange/import': ['import_has_errors', 'table_unreadable'],
  'POST /api/plan-exchange/imports/:id/undo': ['import_moved_on'],
  'PUT /api/parts/:id/open-stops': ['not_on_the_way'],
  'POST /api/control-points': [...attaching, 'day_past'],
  'POST /api/control-points/:id/successor': [...attaching, 'already_retired', 'day_past'],
  'GET /api/rehearsal': ['nothing_released', 'quantity_invalid', 'not_found', 'reference_unknown', ...computed],
  'PUT /api/control-points/:id': [...attaching, 'already_retired', 'day_past'],
  'POST /api/control-points/:id/retire': ['already_retired'],
  'POST /api/production-orders': ['reference_unknown', 'nothing_to_make', 'quantity_invalid', 'lot_size_invalid'],
  'POST /api/production-orders/:id/release': ['order_not_so_far', 'serials_missing', 'already_exists'],
  'POST /api/production-orders/:id/components': [
    'place_not_for',
    'standing_forbids',
    'order_not_so_far',
    'not_found',
    'quantity_invalid',
    'movement_exceeds_balance',
    'movement_not_allowed',
  ],
  'POST /api/production-orders/:id/start': ['order_not_so_far', 'gate_closed', ...opening],
  'POST /api/production-orders/:id/report': [
    'order_not_so_far',
    'gate_closed',
    'step_does_not_add_up',
    'step_paused',
    'serials_missing',
    'step_not_paused',
    'movement_exceeds_balance',
    ...opening,
  ],
  'POST /api/production-orders/:id/confirm': [
    'order_not_so_far',
    'gate_closed',
    'step_does_not_add_up',
    'step_paused',
    'serials_missing',
    ...opening,
  ],
  'POST /api/production-orders/:id/cancel': ['order_not_so_far', 'quantity_invalid'],
  'POST /api/production-orders/:id/finish': ['order_not_so_far', 'gate_closed', 'place_missing', 'quantity_invalid'],
  'POST /api/dispatches': ['reference_unknown', 'standing_forbids', 'movement_exceeds_balance', 'movement_not_allowed', ...opening],
  'POST /api/planned-dispatches': ['reference_unknown', ...opening],
  'POST /api/dispatches/:id/pick': [
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
  'POST /api/dispatches/:id/send': [
    'already_sent',
    'not_picked',
    'standing_forbids',
    'gate_closed',
    'nothing_there',
    'place_missing',
    'quantity_invalid',
    'movement_exceeds_balance',
  ],
  'POST /api/dispatches/:id/cancel': ['already_sent', 'quantity_invalid'],
  'POST /api/dispatches/:id/returns': ['not_sent', 'movement_exceeds_balance', ...opening],
  'POST /api/deliveries': [
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
  'POST /api/lots/:id/finer-standing': ['reference_unknown', 'nothing_there'],
  'POST /api/inspections/:id/spot': [
    'not_on_spot',
    'answers_missing',
    'inspection_closed',
    'inspection_taken',
    'nothing_released',
    'cell_already_answered',
  ],
  'POST /api/expected-deliveries': ['already_announced', 'reference_unknown', ...opening],
  'POST /api/expected-deliveries/:id/register': ['not_expected', ...opening],
  'POST /api/expected-deliveries/:id/turn-away': ['not_expected'],
  'POST /api/purchase-orders': ['already_exists', 'reference_unknown', 'quantity_invalid'],
  'POST /api/deliveries/:id/papers': ['reference_unknown'],
  'POST /api/people/:id/token': ['not_a_feed'],
  'POST /api/feed/events/:id/again': ['event_not_aside'],
  'POST /api/feed/events/:id/dismiss': ['event_not_aside'],
  'POST /api/delivery-preview': ['reference_unknown', 'place_missing', ...computed],
  'POST /api/deliveries/:id/correction-check': ['reference_unknown', 'nothing_corrected'],
  'POST /api/deliveries/:id/corrections': [
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
  'POST /api/lots/:id/put-away': [
    'gate_closed',
    'movement_exceeds_balance',
    'movement_not_allowed',
    'place_missing',
    'place_not_for',
    'quantity_invalid',
    'reference_unknown',
  ],
  'POST /api/inspections/:id/readings': [
    'inspection_taken',
    'cell_already_answered',
    'inspection_closed',
    'outside_not_confirmed',
    'piece_unknown',
    'reference_unknown',
    ...computed,
  ],
  'POST /api/inspections/:id/finish': ['inspection_taken', 'answers_missing', 'inspection_closed', 'skip_reason_missing', 'nothing_released'],
  'POST /api/inspections/:id/adaptations': [
    'inspection_taken',
    'acceptance_number_invalid',
    'inspection_closed',
    'not_adaptable',
    'sample_size_invalid',
  ],
  'POST /api/lots/:id/inspections': ['reference_unknown', 'nothing_there', ...opening],
  'POST /api/inspections/:id/take': ['inspection_closed', 'inspection_taken'],
  'POST /api/inspections/:id/put-back': ['inspection_taken'],
  'PUT /api/inspections/:id/assignment': ['inspection_closed', 'reference_unknown', 'role_missing'],
  'PUT /api/put-away-rules': ['not_found', 'place_not_for', 'reference_unknown', 'rules_in_a_circle', 'stale_version'],
  'POST /api/transfers': [
    'gate_closed',
    'movement_exceeds_balance',
    'movement_not_allowed',
    'not_found',
    'place_not_for',
    'reference_unknown',
    ...opening,
  ],
  'POST /api/acceptance-stops/:id/answer': ['stop_ended'],
  'POST /api/inspections/:id/reopen': ['already_decided', 'inspection_not_finished'],
  'POST /api/inspections/:id/cancel': ['inspection_taken', 'inspection_closed', 'role_missing'],
  'POST /api/inspections/:id/decision': [...deciding, 'already_decided', 'decision_beyond_role', 'inspection_not_finished'],
  'POST /api/inspections/:id/decision-check': ['already_decided', 'decision_beyond_role', 'inspection_not_finished'],
  'POST /api/lots/:id/decisions': [...deciding, 'decision_superseded'],
  'POST /api/lots/:id/decision-check': ['decision_superseded'],
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
    ...(path.endsWith('.pdf') || path === '/api/audit-verification' ? (['too_busy'] as const) : []),
    ...(fieldsOf(params).includes('id') ? (['not_found'] as const) : []),
    ...(fieldsOf(body).includes('version') ? (['stale_version'] as const) : []),
    ...(isCoded ? (['already_exists'] as const) : []),
    ...(method === 'PUT' && !(key in own) ? (['already_exists', 'still_in_use'] as const) : []),
    ...(own[key] ?? []),
  ]
  return [...new Set(codes)]
}
