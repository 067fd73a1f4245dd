/** Who opened an inspection by hand, and why; and how the inspected arrivals of a frequency rule are found however many passed by. */
export function byHandStatements(kind: 'sqlite' | 'postgres'): string[] {
  const text = kind === 'sqlite' ? 'text' : 'text COLLATE "C"'
  return [
    `ALTER TABLE "inspection" ADD COLUMN "opened_by_id" ${text}`,
    `ALTER TABLE "inspection" ADD COLUMN "open_reason" ${text}`,
    `CREATE INDEX "consideration_inspected" ON "consideration" ("plan_id", "operation_id", "part_id", "at", "id") WHERE "inspection_id" IS NOT NULL`,
    `CREATE INDEX "consideration_occasion" ON "consideration" ("occasion_id")`,
  ]
}
