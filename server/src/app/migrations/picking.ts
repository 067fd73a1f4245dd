import { column, key, type Table } from './tables'

/** Columns that a dispatch gets in addition, all of them empty at first: when it is to leave, and who picked it when. */
const ofDispatches = ['leaves_on', 'picked_at', 'picked_by_id'] as const

/** What a planned dispatch is to be picked from. */
export const dispatchLine: Table = {
  name: 'dispatch_line',
  primary: 'PK_5cf0180c59aa401abdd67d3a70a',
  columns: [
    column('id'),
    key('dispatch_id', 'dispatch', '1fae66a967ff7894a06b6d766b1'),
    column('position', 'integer'),
    key('part_id', 'part', '7453e9f408d1112344710f744d6'),
    column('quantity', 'integer'),
  ],
  uniques: {},
  indices: { dispatch_line_dispatch: ['dispatch_id'] },
}

/**
 * The columns: of dispatches, and of control points what a gate keeps goods from and whether the pieces that it finds are set aside. What was
 * a dispatch before was picked when it was entered.
 */
export function pickingStatements(kind: 'sqlite' | 'postgres'): string[] {
  const isFile = kind === 'sqlite'
  const text = isFile ? 'text' : 'text COLLATE "C"'
  return [
    `ALTER TABLE "control_point" ADD COLUMN "keeps_from" ${text} NOT NULL DEFAULT ${isFile ? `('putAway')` : `'putAway'`}`,
    `ALTER TABLE "control_point" ADD COLUMN "sets_aside" boolean NOT NULL DEFAULT ${isFile ? '(0)' : 'false'}`,
    ...ofDispatches.map((name) => `ALTER TABLE "dispatch" ADD COLUMN "${name}" ${text}`),
    `UPDATE "dispatch" SET "picked_at" = (SELECT o."at" FROM "occasion" o WHERE o."id" = "dispatch"."id"),
       "picked_by_id" = (SELECT o."person_id" FROM "occasion" o WHERE o."id" = "dispatch"."id")`,
  ]
}
