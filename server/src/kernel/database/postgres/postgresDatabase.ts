import { Client, type Pool, type PoolClient } from 'pg'
import { DataSource, EntitySchema, type EntityManager, type EntitySchemaColumnOptions, type QueryRunner } from 'typeorm'
import { sealWhatStands } from '../../audit/sealWhatStands'
import { watchRows } from '../../audit/rowSeals'
import { expectedOnce } from '../expectedOnce'
import { SnakeNames } from '../connection'
import type { Database, Schema, Snapshot } from '../database'
import { writeBehind } from '../writeBehind'
import { FellowServers } from './fellowServers'
import { apartLock, migrationLock, PostgresConnection, readingPool, shownAddress } from './postgres'
import { storeOf } from '../store'

/** Connections for reading that a process has at most. */
const readers = 8

const typesThere: Readonly<Record<string, string>> = { real: 'double precision', blob: 'bytea' }

/** The entities as PostgreSQL takes them: other words for some types, and texts in the order of their code points, as in SQLite. */
export function entitiesThere(entities: Schema['entities']): EntitySchema[] {
  const column = (column: EntitySchemaColumnOptions): EntitySchemaColumnOptions => {
    const type = String(column.type)
    return { ...column, type: (typesThere[type] ?? type) as 'text', ...(type === 'text' || type === 'simple-json' ? { collation: 'C' } : {}) }
  }
  return entities.map(({ options }) => {
    const columns = Object.fromEntries(Object.entries(options.columns).map(([name, options]) => [name, column(options as EntitySchemaColumnOptions)]))
    const checks = (options.checks ?? []).map((check) => ({ ...check, expression: check.expression.replace(/ AND typeof\("\w+"\) = 'integer'/, '') }))
    return new EntitySchema({ ...options, columns, checks })
  })
}

function source(address: string, schema: Schema, options: string, poolSize: number): DataSource {
  return new DataSource({
    type: 'postgres',
    url: address,
    entities: entitiesThere(schema.entities),
    migrations: [...schema.serverMigrations],
    migrationsTransactionMode: 'all',
    namingStrategy: new SnakeNames(),
    poolSize,
    installExtensions: false,
    extra: { options, connectionTimeoutMillis: 10_000 },
  })
}

const started = async (made: DataSource, address: string): Promise<DataSource> => {
  try {
    return await made.initialize()
  } catch (error) {
    throw new Error(
      `The database server ${shownAddress(address)} cannot be used: ${error instanceof Error ? error.message || String((error as { code?: string }).code) : String(error)}. Start it, or correct NEMAWASHI_DATABASE.`,
      { cause: error },
    )
  }
}

async function migrationsOf(connection: Pick<PostgresConnection, 'rows'>): Promise<string[]> {
  const [has] = await connection.rows(`SELECT to_regclass('migrations') AS name`)
  return has?.['name'] == null ? [] : (await connection.rows('SELECT name FROM migrations ORDER BY id')).map(({ name }) => String(name))
}

/** Brings the schema up to date as the only process that does, and says in the chain how every row stands then. */
async function bringUpToDate(writing: DataSource, address: string, { serverMigrations }: Schema, now: () => Date): Promise<void> {
  const client = new Client({ connectionString: address })
  await client.connect()
  const connection = new PostgresConnection(client)
  try {
    await connection.run(`SELECT pg_advisory_lock(${migrationLock})`)
    const had = await migrationsOf(connection)
    const unknown = had.filter((name) => !serverMigrations.some((migration) => migration.name === name))
    if (unknown.length > 0)
      throw new Error(`The database ${shownAddress(address)} was written by a newer release (${unknown.join(', ')}). Start that release.`)
    await writing.runMigrations()
    const last = serverMigrations.at(-1)?.name ?? ''
    const sealed = await connection.rows(`SELECT 1 FROM audit WHERE subject_id = '' AND action = 'sealed' AND why LIKE ? LIMIT 1`, [`%${last}%`])
    if (sealed.length === 0) await sealWhatStands(connection, had.length === 0 ? `a new plant, ${last}` : `migrated: ${last}`, now().toISOString())
  } finally {
    await client.end()
  }
}

/**
 * Makes the tables of a plant on a server where there is none yet; gives a connection to them.
 * @throws {Error} where a plant is there.
 */
export async function emptyServer(address: string, schema: Schema): Promise<Client> {
  const made = await started(source(address, schema, '', 1), address)
  await made.runMigrations()
  await made.destroy()
  const client = new Client({ connectionString: address })
  await client.connect()
  const [found] = await new PostgresConnection(client).rows('SELECT EXISTS (SELECT 1 FROM audit) OR EXISTS (SELECT 1 FROM person) AS found')
  if (found?.['found'] !== 1) return client
  await client.end()
  throw new Error(`There is a plant at ${shownAddress(address)} already. Name an empty database.`)
}

/** What writes: a query runner of the mapper, and our connection over the same client. */
interface Writing {
  readonly runner: QueryRunner
  readonly manager: EntityManager
  readonly connection: PostgresConnection
}

async function connect(writing: DataSource): Promise<Writing> {
  const runner = writing.createQueryRunner()
  const connection = new PostgresConnection((await runner.connect()) as PoolClient)
  await connection.run('SET synchronous_commit = on')
  await watchRows(connection)
  return { runner, manager: runner.manager, connection }
}

/** Opens the database on a server, bringing it up to date first. Other processes may serve the same plant meanwhile. */
export async function openPostgres(address: string, schema: Schema, now: () => Date, timeZone = 'UTC'): Promise<Database> {
  const writing = await started(source(address, schema, '', 3), address)
  await bringUpToDate(writing, address, schema, now)
  const reading = await started(source(address, { ...schema, serverMigrations: [] }, '-c default_transaction_read_only=on', readers), address)
  // The mapper keeps its pool to itself; our queries go over the same connections.
  const pool = readingPool((reading.driver as unknown as { master: Pool }).master)
  let current = await connect(writing)
  const fellows = new FellowServers(address)
  const store = storeOf(() => current, timeZone)
  const reader = storeOf(() => ({ manager: reading.manager, connection: pool }), timeZone)
  return {
    kind: 'postgres',
    address,
    writer: {
      ...store,
      gathered: () => writeBehind(store, () => current),
      get connection() {
        return current.connection
      },
      async begin() {
        if (current.connection.isLost) {
          await current.runner.release().catch(() => undefined)
          current = await connect(writing)
        }
        await current.connection.begin()
      },
    },
    reader,
    longReader: reader,
    isAlone: false,
    fellows,
    async apart(step) {
      const runner = writing.createQueryRunner()
      const connection = new PostgresConnection((await runner.connect()) as PoolClient)
      try {
        await connection.run(`BEGIN; SELECT pg_advisory_xact_lock(${apartLock})`)
        const answer = await step({ rows: (sql, values) => connection.rows(sql, values) })
        await connection.commit()
        return answer
      } catch (error) {
        await connection.rollBack()
        throw error
      } finally {
        connection.leave()
        await runner.release()
      }
    },
    async close() {
      await fellows.close()
      await reading.destroy()
      await current.runner.release().catch(() => undefined)
      await writing.destroy()
    },
  }
}

/** Everything that a schema consists of, name to words, whatever the schema is called. */
async function schemaOf(connection: Pick<PostgresConnection, 'rows'>): Promise<Map<string, string>> {
  const here = 'current_schema()::regnamespace'
  const rows = (await connection.rows(`
    SELECT current_schema() AS here, 'table ' || c.relname AS name, string_agg(concat_ws(' ', a.attname, format_type(a.atttypid, a.atttypmod), a.attnotnull,
        a.attidentity, (SELECT collname FROM pg_collation o WHERE o.oid = a.attcollation), pg_get_expr(d.adbin, d.adrelid)), ', ' ORDER BY a.attname) AS sql
      FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum
      WHERE c.relkind IN ('r', 'v') AND c.relnamespace = ${here} GROUP BY c.relname
    UNION ALL SELECT current_schema(), 'index ' || indexname, indexdef FROM pg_indexes WHERE schemaname = current_schema()
    UNION ALL SELECT current_schema(), 'rule ' || conname, pg_get_constraintdef(oid) FROM pg_constraint WHERE connamespace = ${here}
    UNION ALL SELECT current_schema(), 'guard ' || t.tgname || ' of ' || c.relname, pg_get_triggerdef(t.oid) || ' ' || t.tgenabled::text FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid
      WHERE NOT t.tgisinternal AND c.relnamespace = ${here}
    UNION ALL SELECT current_schema(), 'function ' || p.proname || '(' || pg_get_function_identity_arguments(p.oid) || ')', p.prosrc FROM pg_proc p
      LEFT JOIN pg_depend e ON e.objid = p.oid AND e.deptype = 'e' WHERE p.pronamespace = ${here} AND e.objid IS NULL`)) as {
    here: string
    name: string
    sql: string
  }[]
  return new Map(
    rows
      .filter(({ name }) => !/migrations|PK_8c82d7f526340ab734260ea46be/.test(name))
      .map(({ here: table, name, sql }) => [name, sql.replaceAll(`${table}.`, '')]),
  )
}

/** The schema that the migrations make, made in a place of its own that is gone again afterwards. */
async function expectedSchema(address: string, schema: Schema, had: readonly string[]): Promise<Map<string, string>> {
  const made = await started(source(address, { ...schema, entities: [] }, '', 1), address)
  const runner = made.createQueryRunner()
  try {
    await runner.query('BEGIN')
    await runner.query('CREATE SCHEMA nemawashi_expected')
    await runner.query('SET LOCAL search_path TO nemawashi_expected')
    for (const Migration of schema.serverMigrations.filter(({ name }) => had.includes(name))) await new Migration().up(runner)
    return await schemaOf({ rows: (sql) => runner.query(sql) as ReturnType<PostgresConnection['rows']> })
  } finally {
    await runner.query('ROLLBACK')
    await runner.release()
    await made.destroy()
  }
}

/** The database on a server as of now; nothing of the plant is written and nothing brought up to date. */
export async function snapshotOfServer(address: string, schema: Schema): Promise<Snapshot> {
  const client = new Client({ connectionString: address })
  await client.connect()
  const connection = new PostgresConnection(client)
  await connection.run('BEGIN ISOLATION LEVEL REPEATABLE READ')
  const had = await migrationsOf(connection)
  return {
    connection,
    // Pages are checked by the server itself, where it was made with checksums; references it keeps at any time.
    damage: async () => [],
    migrations: schema.serverMigrations.map(({ name }) => name),
    found: () => schemaOf(connection),
    expected: () => expectedOnce(schema, [new URL(address).host, ...had], () => expectedSchema(address, schema, had)),
    written: async () => null,
    close: () => client.end(),
  }
}
