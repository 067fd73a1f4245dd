import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { schema } from '../server/src/app/areas'
import { openSqlite } from '../server/src/kernel/database/sqlite/sqliteDatabase'

/**
 * Writes the migration that brings the database from the last migration to the entities, or says that there is nothing to do.
 * Usage: npm run migration -- NameOfTheChange
 */
const name = process.argv[2]
if (name === undefined || !/^[A-Z]\w+$/.test(name))
  throw new Error(`Received the name "${name}". Give one in PascalCase: npm run migration -- AddGaugeTable`)

const folder = mkdtempSync(join(tmpdir(), 'nemawashi-migration-'))
const database = await openSqlite(folder, schema)
const { upQueries, downQueries } = await database.source.driver.createSchemaBuilder().log()
await database.close()
rmSync(folder, { recursive: true })

if (upQueries.length === 0) {
  console.log('The migrations give the entities exactly: nothing to write.')
} else {
  const className = `${name}${Date.now()}`
  const lines = (queries: { query: string }[]) => queries.map(({ query }) => `    await runner.query(${JSON.stringify(query)})`).join('\n')
  const file = join(import.meta.dirname, `../server/src/app/migrations/${className}.ts`)
  writeFileSync(
    file,
    `import type { MigrationInterface, QueryRunner } from 'typeorm'

export class ${className} implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
${lines(upQueries)}
  }

  async down(runner: QueryRunner): Promise<void> {
${lines(downQueries.reverse())}
  }
}
`,
  )
  console.log(`Wrote ${file}. Add it to migrations/index.ts.`)
}
