import type { MigrationInterface, QueryRunner } from 'typeorm'
import { column, key, maybe, statementsFor, type Table } from './tables'

const table: Table = {
  name: 'evidence',
  primary: 'PK_evidence',
  columns: [
    column('id'),
    key('inspection_id', 'inspection', '6a2485a9c52069e3595ee626804'),
    key('line_id', 'inspection_line', '9c87ebd823412a8302d01a3ddc3', true),
    column('piece', 'integer', true),
    maybe('fault_code'),
    column('count', 'integer', true),
    column('words'),
    key('document_id', 'document', 'a19c64499f0c6ab1b04f90bd855', true),
    column('place_x', 'integer', true),
    column('place_y', 'integer', true),
    key('person_id', 'person', '1e8021ad4b18c55c19db05e9f19'),
    column('at'),
    maybe('withdrawn_at'),
    key('withdrawn_by_id', 'person', '6b1a8fc35ee57ef8b4bf2cf7cbd', true),
  ],
  uniques: {},
  indices: { evidence_inspection: ['inspection_id', 'at'] },
  checks: {
    evidence_count: '("fault_code" IS NULL) = ("count" IS NULL)',
    evidence_place: '("place_x" IS NULL) = ("place_y" IS NULL)',
  },
}

/** What is said of a piece beyond its answer: faults, words, pictures; the same in a file and on a server. What was said stays as it was said. */
export class Evidence1798800000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const kind = runner.connection.options.type === 'postgres' ? 'postgres' : 'sqlite'
    for (const statement of statementsFor(kind, [table])) await runner.query(statement)
    await runner.query('CREATE INDEX "evidence_fault" ON "evidence" ("fault_code") WHERE "fault_code" IS NOT NULL')
    if (kind === 'postgres')
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "evidence" FOR EACH ROW EXECUTE FUNCTION touch()`)
    const said = ['inspection_id', 'line_id', 'piece', 'fault_code', 'count', 'words', 'document_id', 'place_x', 'place_y', 'person_id', 'at']
    const columns = said.map((name) => `"${name}"`).join(', ')
    const words = 'what was said stays; it can be withdrawn'
    for (const [name, change] of [
      ['evidence_stays', `UPDATE OF ${columns}`],
      ['evidence_no_delete', 'DELETE'],
    ])
      await runner.query(
        kind === 'postgres'
          ? `CREATE TRIGGER ${name} BEFORE ${change} ON "evidence" FOR EACH ROW EXECUTE FUNCTION refuse('${words}')`
          : `CREATE TRIGGER "${name}" BEFORE ${change} ON "evidence" BEGIN SELECT RAISE(ABORT, '${words}'); END`,
      )
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
