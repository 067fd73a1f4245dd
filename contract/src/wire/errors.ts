import type { CoreErrorCode, Facts } from '@nemawashi/core'

interface Entry {
  readonly status: number
  readonly help: string
}

const unprocessable = (help: string): Entry => ({ status: 422, help })

/** What the core refuses. */
export const coreErrors: Readonly<Record<CoreErrorCode, Entry>> = {
  not_a_number: unprocessable('Write digits and one decimal point or comma, without a unit or an exponent.'),
  number_too_long: unprocessable('A number has at most 30 characters.'),
  too_many_decimals: unprocessable('Give no more decimals than the resolution has.'),
  limits_missing: unprocessable('Give a lower limit, an upper limit or both.'),
  limits_reversed: unprocessable('Exchange the lower and the upper limit.'),
  nominal_outside_limits: unprocessable('Correct the nominal or the limit, or leave the nominal empty.'),
  resolution_not_positive: unprocessable('The resolution is the smallest step of a reading, e.g. 0.01.'),
  tolerance_not_understood: unprocessable('Write it like 0.3 ± 0.05, 0.25 to 0.35, ≥ 145 or ≤ 0.8.'),
  unit_unknown: unprocessable('Choose a unit from the list.'),
  lot_size_invalid: unprocessable('A lot size is a whole number from 1 to 1,000,000,000.'),
  sample_size_invalid: unprocessable('A sample size is a whole number, 1 or more.'),
  percent_invalid: unprocessable('A percentage is more than 0 and at most 100.'),
  aql_not_in_series: unprocessable('Choose an AQL from the series of MIL-STD-105E.'),
  acceptance_number_invalid: unprocessable('An acceptance number is 0 or more and smaller than the sample.'),
  fraction_invalid: unprocessable('A fraction lies from 0 to 1.'),
  serials_not_understood: unprocessable('Write serial numbers with blanks between them, a run as its first and last: 0001..0012.'),
  quantity_invalid: unprocessable('A quantity is a whole number, 1 or more.'),
  movement_exceeds_balance: { status: 409, help: 'Look again at what is there, and move no more than that.' },
  movement_not_allowed: { status: 409, help: 'Decide on the pieces first.' },
  split_does_not_add_up: unprocessable('Give every held piece exactly one decision.'),
  no_crossing: unprocessable('Widen the range.'),
  acceptance_not_below_rejection: unprocessable('The rejection number is greater than the acceptance number.'),
  stages_shrink: unprocessable('Counts add up over the stages: later numbers are as large as earlier ones or larger.'),
  risk_invalid: unprocessable('A risk is a share between 0 and 1; the two together are less than 1.'),
  qualities_reversed: unprocessable('The good quality is the smaller one. Exchange them.'),
  design_not_found: unprocessable('Move the two qualities further apart or allow more risk.'),
  acceptance_constant_invalid: unprocessable('The acceptance constant k is 0 or more.'),
  spread_not_positive: unprocessable('Give a standard deviation greater than 0, or sample by attributes.'),
  not_measured: unprocessable('Sample by attributes: only what is measured has a mean and a standard deviation.'),
  not_finite: unprocessable('Give a number.'),
  clearance_invalid: unprocessable('The clearance counts conforming units or lots in a row, 1 or more.'),
  plan_not_tabulated: unprocessable('Choose an AQL and a letter that the tables hold.'),
  frequency_invalid: unprocessable('Correct the named number of the frequency rule.'),
  summary_impossible: unprocessable('Correct the named figure: no readings could have this summary.'),
  fit_unknown: unprocessable('Choose a class that ISO 286-1 has for this size, or write the limits.'),
  unit_mismatch: unprocessable('Choose a unit of the same quantity.'),
  answer_invalid: unprocessable('Give an answer of the kind that the line asks for.'),
  rules_in_a_circle: unprocessable('Narrow one of the rules down, or put a rule before them that lets the pieces stay.'),
  band_invalid: unprocessable('State a band greater than 0 that leaves something between its edges.'),
}

/** Every refusal that the server can answer with: HTTP status and what helps. The codes are stable. */
export const errorCatalogue = {
  ...coreErrors,
  input_invalid: { status: 400, help: 'Correct the named fields.' },
  json_invalid: { status: 400, help: 'Send valid JSON with the content type application/json.' },
  kept_too_much: { status: 429, help: 'Wait until some hours of it have passed, or have somebody else add the rest.' },
  body_too_large: { status: 413, help: 'Send less at once; a request holds at most 512 kB.' },
  signed_out: { status: 401, help: 'Sign in again. What was typed is kept.' },
  sign_in_old: { status: 401, help: 'Sign in again; then it is done.' },
  second_factor_needed: { status: 401, help: 'Enter the code that your app shows now, or a recovery code.' },
  second_factor_wrong: {
    status: 403,
    help: 'Each code is good once and for a minute: enter the one that the app shows now. The clock of the telephone has to be right.',
  },
  second_factor_on: { status: 409, help: 'Take the one that you have away first.' },
  password_first: { status: 403, help: 'Choose a password of your own; the page asks for it.' },
  second_factor_first: { status: 403, help: 'Set up your second factor; the page asks for it.' },
  sign_in_failed: { status: 401, help: 'Check the name and the password.' },
  password_guessable: {
    status: 400,
    help: 'Several words that do not belong together make a good one. Names, dates, rows of keys and repeats do not.',
  },
  password_wrong: { status: 403, help: 'Enter the password you signed in with.' },
  too_many_attempts: { status: 429, help: 'Wait until the stated time and try again.' },
  role_missing: { status: 403, help: 'Ask somebody with one of the stated roles, or an administrator for the role.' },
  origin_foreign: { status: 403, help: 'Send changes from a page of this server.' },
  not_found: { status: 404, help: 'It may have been typed wrongly; look it up with the search.' },
  route_unknown: { status: 404, help: 'The addresses of the API are listed at /api/v1/docs.' },
  stale_version: { status: 409, help: 'Compare both versions and choose.' },
  key_reused: { status: 409, help: 'Use a new Idempotency-Key for a different request.' },
  already_exists: { status: 409, help: 'Choose another code, or open the existing one.' },
  already_set_up: { status: 409, help: 'Sign in.' },
  reference_unknown: { status: 422, help: 'Choose an existing one from the list.' },
  still_in_use: { status: 409, help: 'Free it from where it is used first.' },
  not_a_draft: { status: 409, help: 'What was released is not edited: revise it, and edit the draft.' },
  draft_exists: { status: 409, help: 'Finish the draft that is there, then release it.' },
  nothing_released: { status: 409, help: 'Release a revision first.' },
  already_retired: { status: 409, help: 'Choose one that is in force.' },
  plan_without_lines: { status: 422, help: 'Add at least one line.' },
  routing_order: { status: 422, help: 'Put receiving operations first and shipping last.' },
  moment_not_there: { status: 422, help: 'Choose a moment that this kind of operation has.' },
  not_on_the_way: { status: 422, help: 'Give the part this operation in its routing first, or choose one that it has.' },
  containers_do_not_add_up: { status: 422, help: 'Make the containers add up to the quantity, or leave them out.' },
  standing_forbids: { status: 409, help: 'Take other pieces, or have their finer standing changed on the passport of the lot.' },
  nothing_there: { status: 409, help: 'Look at where the pieces of the lot stand now: its passport shows it.' },
  serials_missing: { status: 422, help: 'Give a serial number for each piece: this part is traced one by one.' },
  gate_closed: { status: 409, help: 'Finish and decide the named inspections first.' },
  nothing_to_make: { status: 422, help: 'Give the part a production step in its routing under Define, Parts.' },
  order_not_so_far: { status: 409, help: 'Look at what the order says comes next.' },
  step_does_not_add_up: { status: 422, help: 'Account for every piece: good, scrapped and set aside together are those that came to the step.' },
  step_paused: { status: 409, help: 'Resume the step, then tell what was made.' },
  step_not_paused: { status: 409, help: 'Load the order again: somebody has resumed it.' },
  interval_missing: { status: 422, help: 'Say after how many pieces or minutes it asks again, or choose another moment.' },
  days_reversed: { status: 422, help: 'Let it end on the day it begins, or later.' },
  day_past: { status: 422, help: 'Choose today or a day to come: what was asked before stays as it was.' },
  set_aside: { status: 422, help: 'Decide on the pieces that were set aside by themselves: scrap, quarantine, return, or use as is with a reason.' },
  not_planned: { status: 422, help: 'Pick no more than is planned of each part, or plan another dispatch.' },
  not_picked: { status: 409, help: 'Pick it first.' },
  already_picked: { status: 409, help: 'Load it again: somebody has picked it meanwhile.' },
  already_sent: { status: 409, help: 'A dispatch that has left, or was called off, stays as it is.' },
  not_expected: { status: 409, help: 'Load it again: it was received or turned away meanwhile, or another supplier announced it.' },
  not_quick: { status: 422, help: 'Choose a plan of judged lines at receiving, any at a step, or let it be answered at the bench.' },
  not_on_spot: { status: 409, help: 'Record it at the bench, piece by piece.' },
  not_sent: { status: 409, help: 'Only what has left can come back.' },
  place_missing: { status: 409, help: 'Create a place with that purpose under Define, Places.' },
  inspection_closed: { status: 409, help: 'A finished inspection takes no readings; reopen it while it is undecided.' },
  inspection_not_finished: { status: 409, help: 'Finish the inspection first.' },
  nothing_corrected: { status: 422, help: 'It is entered like that already. Give what it should have been.' },
  correction_too_late: {
    status: 409,
    help: 'What was decided on stays as it was decided. Enter what came in addition as a delivery of its own; decide anew on what is there.',
  },
  not_a_feed: { status: 422, help: 'A key is for another system: give the person the role "order feed", and no other.' },
  event_not_aside: { status: 409, help: 'It was taken or left out meanwhile. Load it again.' },
  not_adaptable: { status: 409, help: 'The control point asks it as it stands: change the plan, or let the control point be adaptable.' },
  place_not_for: { status: 409, help: 'Choose a place whose purpose takes pieces of that standing.' },
  inspection_taken: { status: 409, help: 'Take another one, or take it over after a word with the person named.' },
  stop_ended: { status: 409, help: 'Load the list of stops again: this one was answered, or its inspection was opened again.' },
  already_decided: { status: 409, help: 'A decision stands. Open the passport to see it.' },
  skip_reason_missing: { status: 409, help: 'Answer the named lines, or say for each why it is skipped.' },
  answers_missing: { status: 409, help: 'Answer the named cells first; a blank never passes.' },
  piece_unknown: { status: 422, help: 'Pieces count from 1 to the sample size of the line.' },
  outside_not_confirmed: { status: 422, help: 'Say that this is what you measured, or correct it.' },
  cell_already_answered: { status: 409, help: 'Correct the answer that is there; both are kept.' },
  table_unreadable: { status: 422, help: 'Save it as CSV in UTF-8 or as XLSX, with one row of column heads.' },
  import_has_errors: { status: 422, help: 'Mend the named cells and import again; nothing was written.' },
  import_moved_on: { status: 409, help: 'What was changed or used since is kept; retire it one by one.' },
  reason_missing: { status: 422, help: 'Say why.' },
  decision_beyond_role: { status: 403, help: 'A quality manager decides this.' },
  storage_failed: { status: 503, help: 'What you typed is kept here. Tell the administrator; try again once there is room on the disk.' },
  storage_busy: { status: 503, help: 'Try again in a moment; tell the administrator if it stays.' },
  clock_wrong: { status: 503, help: 'What you typed is kept here. Let an administrator set the clock of the server, or say that it is right.' },
  number_taken: {
    status: 503,
    help: 'What you typed is kept here. Running numbers were set back past the server: let an administrator see what `npm run audit:verify` says, and go back to a backup.',
  },
  too_busy: { status: 503, help: 'Nothing is lost. Ask again in a minute, or for less at a time.' },
  setup_code_wrong: { status: 403, help: 'Look at the window in which the server was started: it prints the code there.' },
  already_received: { status: 409, help: 'Look at that delivery. If it is another one, say so and enter it again.' },
  event_differs: { status: 409, help: 'Send it under a key of its own, or correct in the plant what the first one did.' },
  already_announced: { status: 409, help: 'Look at that delivery. If it is another one, say so and announce it again.' },
  not_as_ordered: { status: 409, help: 'Look at the order and the announcement. If it is right all the same, say so and enter it again.' },
  release_is_concession: { status: 422, help: 'Choose use as is (concession) and say why, or decide otherwise.' },
  decision_superseded: { status: 409, help: 'Look at that decision first, then decide anew on what is there now.' },
  person_changed: { status: 409, help: 'What was typed is kept for who typed it, until they sign in here again.' },
  asset_gone: { status: 404, help: 'Reload the page: it comes from before an update of the server.' },
  internal: { status: 500, help: 'Nothing was changed. Try again; tell the administrator the reference if it stays.' },
} as const satisfies Record<string, Entry>

export type ErrorCode = keyof typeof errorCatalogue
export const errorCodes = Object.keys(errorCatalogue) as ErrorCode[]

/** What an error looks like on the wire. */
export interface ErrorReply {
  readonly error: { readonly code: ErrorCode; readonly message: string; readonly help: string; readonly facts: Facts }
}

/** The catalogue as a table, for the documentation. */
export function errorTable(): string {
  const rows = Object.entries(errorCatalogue).map(([code, { status, help }]) => `| \`${code}\` | ${status} | ${help} |`)
  return ['| code | status | what helps |', '| --- | --- | --- |', ...rows].join('\n')
}
