import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Everything a characteristic's newest revision says in words, on one row, so that a search reads one short column. */
const wordsOf = (id: string) => `
  INSERT OR REPLACE INTO "characteristic_text" ("id", "latest", "words")
  SELECT c."id", r."revision", c."code" || char(10) || r."name" || char(10) || IFNULL(r."unit", '') || char(10) || r."class" || char(10) || r."method"
    || char(10) || r."instruction" || char(10) || IFNULL(r."acceptableState", '') || char(10) || IFNULL(json_extract(r."details", '$.typed'), '')
    || char(10) || IFNULL(json_extract(r."details", '$.gaugeKind'), '') || char(10) || IFNULL(json_extract(r."details", '$.responsible'), '')
    || char(10) || IFNULL(json_extract(r."details", '$.countUnit'), '') || char(10) || IFNULL(json_extract(r."details", '$.adviceOnFailure'), '')
    || char(10) || IFNULL((SELECT group_concat("value", char(10)) FROM json_each(r."details", '$.faultCodes')), '')
    || char(10) || IFNULL((SELECT group_concat(json_extract("value", '$.code') || ' ' || json_extract("value", '$.words'), char(10)) FROM json_each(r."details", '$.answers')), '')
  FROM "characteristic" c JOIN "characteristic_revision" r ON r."characteristicId" = c."id"
  WHERE ${id} AND r."revision" = (SELECT MAX(l."revision") FROM "characteristic_revision" l WHERE l."characteristicId" = c."id")`

export class LibrarySearch1795610000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE "characteristic_text" ("id" text PRIMARY KEY NOT NULL REFERENCES "characteristic" ("id") ON DELETE CASCADE, "latest" integer NOT NULL, "words" text NOT NULL)',
    )
    await runner.query(wordsOf('1'))
    for (const [event, row] of [
      ['INSERT', 'NEW'],
      ['UPDATE', 'NEW'],
      ['DELETE', 'OLD'],
    ] as const) {
      await runner.query(
        `CREATE TRIGGER "characteristic_text_after_${event.toLowerCase()}" AFTER ${event} ON "characteristic_revision" BEGIN ${wordsOf(`c."id" = ${row}."characteristicId"`)}; END`,
      )
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const event of ['insert', 'update', 'delete']) await runner.query(`DROP TRIGGER "characteristic_text_after_${event}"`)
    await runner.query('DROP TABLE "characteristic_text"')
  }
}
