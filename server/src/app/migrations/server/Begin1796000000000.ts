import type { MigrationInterface, QueryRunner } from 'typeorm'
import { firstClasses } from '../Classes1795613000000'
import { functions, guards } from './guards'
import { tables } from './tables'

/** Not sealed, or sealed by what they belong to: no row of them is noted. */
const unwatched = ['audit', 'request_key', 'counter', 'balance', 'migrations', 'attempt', 'reading']

/** The whole schema on a server, as it was when a plant could first be kept there. */
export class Begin1796000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of tables) await runner.query(statement)
    await runner.query(`CREATE TABLE characteristic_text (id text COLLATE "C" PRIMARY KEY REFERENCES characteristic (id) ON DELETE CASCADE,
      latest integer NOT NULL, words text COLLATE "C" NOT NULL)`)
    // Failed tries to sign in, for every process that serves the plant; worth nothing after a crash.
    await runner.query(`CREATE UNLOGGED TABLE attempt (key text COLLATE "C" PRIMARY KEY, count integer NOT NULL, last_at_ms double precision NOT NULL,
      until_ms double precision NOT NULL)`)
    for (const made of functions) await runner.query(`CREATE FUNCTION ${made}`)
    for (const guard of guards) await runner.query(`CREATE TRIGGER ${guard}`)
    for (const [id, code, name] of firstClasses) await runner.query('INSERT INTO importance_class VALUES ($1, $2, $3, 1, true)', [id, code, name])
    const keys =
      (await runner.query(`SELECT c.relname AS "table", string_agg(a.attname, ',' ORDER BY array_position(i.indkey::int[], a.attnum::int)) AS keys
      FROM pg_class c JOIN pg_index i ON i.indrelid = c.oid AND i.indisprimary JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = ANY (i.indkey)
      WHERE c.relkind = 'r' AND c.relnamespace = current_schema()::regnamespace GROUP BY c.relname ORDER BY c.relname`)) as {
        table: string
        keys: string
      }[]
    for (const { table, keys: of } of keys) {
      if (unwatched.includes(table)) continue
      const given =
        of === 'id'
          ? ''
          : of
              .split(',')
              .map((key) => `'${key}'`)
              .join(', ')
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${table}" FOR EACH ROW EXECUTE FUNCTION touch(${given})`)
    }
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
