import type { Decision } from '@nemawashi/contract'
import { sealMeaning, type PiecesMeant } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'
import { eventKinds } from './repository'

type DecisionHead = Omit<Decision, 'rows' | 'meaning'>

async function withRows(reader: Reader, head: DecisionHead): Promise<Decision> {
  const rows = await rowsOf<Decision['rows'][number]>(
    reader,
    {
      containerId: 'text?',
      disposition: 'text',
      reason: 'text',
      containerLabel: 'text?',
      quantity: 'number',
      placeId: 'text?',
      placeName: 'text?',
      standing: 'text?',
    },
    `SELECT t.container_id, c.label AS container_label, t.place_id, p.name AS place_name, t.standing, t.quantity, t.disposition, t.reason
     FROM decision_part t LEFT JOIN container c ON c.id = t.container_id LEFT JOIN place p ON p.id = t.place_id
     WHERE t.decision_id = ? ORDER BY t.position`,
    [head.id],
  )
  return { ...head, meaning: sealMeaning(rows), rows }
}

const decisionHeadColumns: Columns<DecisionHead> = {
  id: 'text',
  inspectionId: 'text?',
  inspectionCode: 'text?',
  followsId: 'text?',
  signedAt: 'text',
  signedByName: 'text',
  initials: 'text',
}

/** Every decision on a lot in the order in which they were signed, the latest last. */
export async function loadDecisions(reader: Reader, lotId: string): Promise<Decision[]> {
  const heads = await rowsOf<DecisionHead>(
    reader,
    decisionHeadColumns,
    `SELECT d.id, d.inspection_id, i.code AS inspection_code, d.follows_id, d.signed_at, p.name AS signed_by_name, p.initials
     FROM decision d JOIN person p ON p.id = d.signed_by_id LEFT JOIN inspection i ON i.id = d.inspection_id WHERE d.lot_id = ? ORDER BY d.signed_at, i.code IS NULL, i.code, d.id`,
    [lotId],
  )
  return Promise.all(heads.map((head) => withRows(reader, head)))
}

/** Whether anything was decided on the lot. */
export async function hasDecisions(reader: Reader, lotId: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM decision WHERE lot_id = ? LIMIT 1', [lotId])).length > 0
}

/** Pieces of a lot that an earlier decision let be used under concession. */
export interface Conceded extends PiecesMeant {
  readonly quantity: number
}

const concededColumns: Columns<Conceded> = { quantity: 'number', containerId: 'text?', eventId: 'text?' }

/** What decisions on a lot let be used under concession, and which pieces each meant. */
export async function concededBefore(reader: Reader, lotId: string): Promise<Conceded[]> {
  const rows = await rowsOf<Conceded>(
    reader,
    concededColumns,
    `SELECT t.container_id, CASE WHEN o.kind IN ${eventKinds} THEN o.id END AS event_id, t.quantity FROM decision_part t JOIN decision d ON d.id = t.decision_id
     LEFT JOIN inspection i ON i.id = d.inspection_id LEFT JOIN occasion o ON o.id = i.occasion_id WHERE d.lot_id = ? AND t.disposition = 'concession'`,
    [lotId],
  )
  return rows
}
