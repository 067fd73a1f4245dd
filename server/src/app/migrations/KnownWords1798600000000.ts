import type { MigrationInterface, QueryRunner } from 'typeorm'

const standings = ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped', 'returned', 'shipped', 'used', 'notArrived']
const dispositions = ['release', 'concession', 'quarantine', 'returnToSupplier', 'scrap']
const moments = [
  ...['announced', 'registered', 'arrival', 'start', 'everyPieces', 'everyMinutes', 'setUp', 'lastPiece', 'end', 'beforePicking', 'beforeDispatch'],
]
const revisionStates = ['draft', 'scheduled', 'released', 'retired']
const onFailures = ['hold', 'note']

/**
 * Which words a column takes, as the code says it: kept here as it was when this was written. Where the code takes another, a test says so, and
 * another migration changes the guard (`guardWords`).
 */
export const knownWords: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  partner: { kind: ['supplier', 'customer'] },
  place: { purpose: ['dock', 'inspection', 'store', 'quarantine', 'scrap', 'outside', 'production', 'shipping', 'customer'] },
  operation: { kind: ['receiving', 'production', 'transfer', 'shipping', 'return'] },
  part: { tracking: ['bulk', 'lot', 'serial'] },
  reason: { purpose: ['skip', 'correction', 'decision'] },
  finer_standing: { standing: standings },
  characteristic_revision: { kind: ['measured', 'judged', 'coded', 'counted', 'noted'], state: revisionStates },
  plan_revision: { state: revisionStates },
  control_point: {
    moment: moments,
    subject: ['lot', 'load', 'container', 'serial'],
    holds: ['all', 'sample'],
    on_failure: onFailures,
    when_conforming: ['decide', 'free'],
    answered_at: ['bench', 'spot'],
    keeps_from: ['putAway', 'use'],
    need: ['fixed', 'adaptable'],
    state: ['active', 'retired', 'byHand'],
  },
  inspection: {
    subject_kind: ['load', 'line', 'lot', 'container', 'serial', 'run'],
    state: ['toDo', 'started', 'finished', 'decided', 'cancelled'],
    on_failure: onFailures,
    verdict: ['acceptable', 'notAcceptable'],
  },
  reading: { mark: ['conforming', 'marginal', 'nonconforming', 'notJudged'] },
  occasion: {
    kind: [
      ...['deliveryAnnounced', 'deliveryRegistered', 'delivery', 'orderReleased', 'stepStarted', 'stepReported', 'stepConfirmed'],
      ...['transfer', 'dispatch', 'return'],
    ],
    moment: [...moments, 'paused', 'resumed'],
  },
  movement: {
    from_standing: standings,
    to_standing: standings,
    kind: [
      ...['received', 'putAway', 'transferred', 'held', 'cancelled', 'made', 'scrappedAtStep', 'setAsideAtStep', 'issued', 'picked', 'shipped'],
      ...['cameBack', 'corrected', 'setApart', ...dispositions],
    ],
  },
  hold: { cause_kind: ['inspection'] },
  decision_part: { disposition: dispositions, standing: standings },
  put_away_rule: { standing: standings, moment: ['always', 'arrival', 'later'], state: ['active', 'retired'] },
  expected_delivery: { state: ['announced', 'registered', 'received', 'turnedAway'] },
  delivery_paper: { kind: ['certificate', 'deliveryNote', 'other'] },
  production_order: { state: ['planned', 'released', 'finished', 'cancelled'] },
  order_step: { state: ['waiting', 'running', 'confirmed'] },
  step_report: { kind: ['pieces', 'setUp', 'lastPiece', 'timed', 'paused', 'resumed'] },
  transfer: { standing: standings },
  dispatch: { state: ['planned', 'picked', 'sent', 'cancelled'] },
  feed_event: {
    kind: ['purchaseOrder', 'announcement', 'delivery', 'order', 'confirmation', 'plannedDispatch', 'dispatch'],
    state: ['taken', 'aside', 'dismissed'],
    subject_kind: ['purchaseOrder', 'expected', 'delivery', 'order', 'dispatch'],
  },
  notice: { kind: ['standing', 'invoiceReleased'] },
}

/** A table takes no row, new or changed, with a word in this column that nobody knows; empty stays empty. The same in a file and on a server. */
export async function guardWords(runner: QueryRunner, table: string, column: string, known: readonly string[]): Promise<void> {
  const words = `${table}.${column} takes none but ${known.join(', ')}`
  const isUnknown = `NEW."${column}" NOT IN (${known.map((word) => `'${word}'`).join(', ')})`
  const isServer = runner.connection.options.type === 'postgres'
  for (const [name, at] of [
    ['new', 'INSERT'],
    ['next', `UPDATE OF "${column}"`],
  ])
    await runner.query(
      isServer
        ? `CREATE TRIGGER ${name}_${column}_known BEFORE ${at} ON "${table}" FOR EACH ROW WHEN (${isUnknown}) EXECUTE FUNCTION refuse('${words}')`
        : `CREATE TRIGGER "${name}_${table}_${column}_known" BEFORE ${at} ON "${table}" WHEN ${isUnknown} BEGIN SELECT RAISE(ABORT, '${words}'); END`,
    )
}

export class KnownWords1798600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(knownWords))
      for (const [column, known] of Object.entries(columns)) await guardWords(runner, table, column, known)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
