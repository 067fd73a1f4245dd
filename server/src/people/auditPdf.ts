import type { ListQuery } from '@nemawashi/contract'
import { listPages, type Filter, type ListSpec, type SqlReader } from '../kernel/http/lists'
import { paperOf } from '../kernel/pdf/paper'
import { inks } from '../kernel/pdf/inks'
import { momentIn } from '../kernel/database/plantTime'

interface AuditEntryOnPaper {
  id: string
  at: string
  personName: string | null
  action: string
  subject: string
  subjectName: string | null
  why: string | null
  before: string | null
  after: string | null
}

/** More than this is a file for a program and not for paper; the CSV holds everything. */
const maxEntries = 2000

/** Fields that differ, each as `field: before → after`. */
function differences(before: string | null, after: string | null): string {
  const was = (before === null ? {} : JSON.parse(before)) as Record<string, unknown>
  const is = (after === null ? {} : JSON.parse(after)) as Record<string, unknown>
  const shown = (value: unknown) => (value === undefined || value === null ? '–' : typeof value === 'string' ? value : JSON.stringify(value))
  const fields = [...new Set([...Object.keys(was), ...Object.keys(is)])]
  return fields
    .map((field) => (before === null ? `${field}: ${shown(is[field])}` : `${field}: ${shown(was[field])} → ${shown(is[field])}`))
    .join(' · ')
    .slice(0, 600)
}

/** What of the audit chain is printed: the first entries of those that match. */
export interface AuditOnPaper {
  readonly total: number
  readonly entries: readonly AuditEntryOnPaper[]
}

/** Reads what is printed, page by page. */
export async function auditOnPaper(reader: SqlReader, list: ListSpec, query: ListQuery, filters: readonly Filter[]): Promise<AuditOnPaper> {
  const entries: AuditEntryOnPaper[] = []
  let total = 0
  for await (const page of listPages<AuditEntryOnPaper>(reader, list, query, filters, maxEntries)) {
    if (entries.length === 0) total = page.total
    entries.push(...page.rows)
  }
  return { total, entries }
}

/** The audit chain as it is filtered, on paper: who did what to which thing, and what differed. */
export const auditPaper = paperOf('audit chain', (paper, { total, entries }: AuditOnPaper, printing) => {
  paper.doc.info.Title = 'Audit chain'
  paper.write('Audit chain', paper.left, paper.y, { font: 'strong', size: 18 })
  paper.y += 26
  const words = `${total} entries match${total > maxEntries ? `; the first ${maxEntries} are printed, all of them are in the CSV` : ''}.`
  paper.y += paper.write(words, paper.left, paper.y, { color: inks.soft, width: 500 }) + 8
  for (const entry of entries) {
    paper.room(34)
    paper.write(entry.id, paper.left + 34, paper.y, { font: 'mono', size: 8, color: inks.soft, align: 'right' })
    paper.write(momentIn(printing.timeZone, entry.at), paper.left + 42, paper.y, { size: 8.5 })
    paper.write(entry.personName ?? 'the server', paper.left + 130, paper.y, { size: 8.5 })
    paper.y += paper.write(`${entry.action} ${entry.subject} ${entry.subjectName ?? ''}`, paper.left + 240, paper.y, {
      font: 'strong',
      size: 8.5,
      width: 270,
    })
    if (entry.why) paper.y += paper.write(`because: ${entry.why}`, paper.left + 42, paper.y, { size: 8.5, width: 460 })
    const text = differences(entry.before, entry.after)
    if (text !== '') paper.y += paper.write(text, paper.left + 42, paper.y, { size: 7.5, color: inks.soft, width: 468 })
    paper.y += 4
  }
  paper.feet('Audit chain', printing)
})
