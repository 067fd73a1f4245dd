import type { MigrationInterface, QueryRunner } from 'typeorm'

interface OldLine {
  readonly reasoning: string
  readonly [fact: string]: unknown
}

/**
 * Findings keep facts, and lines of an inspection the rule of their plan, in place of sentences; both are put into words where they are
 * read. The sentence of a line that was judged before stays as what was said then: not all of its facts were kept.
 */
export class FactsOfFindings1795800000000 implements MigrationInterface {
  name = 'FactsOfFindings1795800000000'

  async up(runner: QueryRunner): Promise<void> {
    const decisive = new Map<string, boolean[]>()
    const flags = (await runner.query('SELECT inspectionId, isDecisive FROM inspection_line ORDER BY inspectionId, position')) as {
      inspectionId: string
      isDecisive: number
    }[]
    for (const { inspectionId, isDecisive } of flags) decisive.set(inspectionId, [...(decisive.get(inspectionId) ?? []), isDecisive === 1])
    const rows = (await runner.query('SELECT id, finding FROM inspection WHERE finding IS NOT NULL')) as { id: string; finding: string }[]
    for (const { id, finding } of rows) {
      const { verdict, lines } = JSON.parse(finding) as { verdict: string; lines: OldLine[] }
      const kept = lines.map(({ reasoning, ...facts }, i) => ({
        ...facts,
        counting: reasoning.includes('nonconformities') ? 'nonconformities' : 'nonconforming',
        isDecisive: decisive.get(id)?.[i] ?? false,
        because: { kind: 'said', words: reasoning },
      }))
      await runner.query('UPDATE inspection SET finding = ? WHERE id = ?', [JSON.stringify({ verdict, lines: kept }), id])
    }
    await runner.query('ALTER TABLE "inspection_line" DROP COLUMN "samplingWords"')
    await runner.query('ALTER TABLE "inspection_line" DROP COLUMN "samplingReasoning"')
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
