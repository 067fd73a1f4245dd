import type { ListQuery } from '@nemawashi/contract'
import type { Writable } from 'node:stream'
import { setImmediate } from 'node:timers/promises'
import type { Reader } from '../kernel/database'
import { listPage, type Filter, type ListSpec } from '../kernel/lists'
import { inks, PdfPaper, type Printing } from '../kernel/pdfPaper'
import { momentIn } from '../kernel/plantTime'

interface Entry {
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

/** So many entries take about 20 ms. */
const laidOutAtOnce = 10

/** More than this is a file for a program and not for paper; the CSV holds everything. */
const mostEntries = 2000

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

/** The audit chain as it is filtered, on paper: who did what to which thing, and what differed. */
export async function auditPdf(
  reader: Reader,
  list: ListSpec,
  query: ListQuery,
  filters: readonly Filter[],
  printing: Printing,
  out: Writable,
): Promise<void> {
  const paper = new PdfPaper()
  paper.doc.info.Title = 'Audit chain'
  paper.write('Audit chain', paper.left, paper.y, { font: 'strong', size: 18 })
  paper.y += 26
  const { timeZone } = printing
  let after: string | undefined
  let count = 0
  do {
    const page = await listPage<Entry>(reader, list, { ...query, limit: 200, ...(after === undefined ? {} : { after }) }, filters, count === 0)
    if (count === 0) {
      const words = `${page.total} entries match${page.total > mostEntries ? `; the first ${mostEntries} are printed, all of them are in the CSV` : ''}.`
      paper.y += paper.write(words, paper.left, paper.y, { color: inks.soft, width: 500 }) + 8
    }
    for (const [i, entry] of page.rows.entries()) {
      // Words are laid out on the server's only thread: others get their turn.
      if (i % laidOutAtOnce === 0) await setImmediate()
      paper.room(34)
      paper.write(entry.id, paper.left + 34, paper.y, { font: 'mono', size: 8, color: inks.soft, align: 'right' })
      paper.write(momentIn(timeZone, entry.at), paper.left + 42, paper.y, { size: 8.5 })
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
    count += page.rows.length
    after = page.next ?? undefined
  } while (after !== undefined && count < mostEntries)
  paper.feet('Audit chain', printing)
  await paper.sendTo(out)
}
