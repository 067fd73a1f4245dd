import type { Plan, PlanLine } from '@nemawashi/contract'
import { bandWords, describeSamplingRule, sampleFor, type SamplingRule } from '@nemawashi/core'
import { dayIn } from '../../kernel/database/plantTime'
import { paperOf } from '../../kernel/pdf/paper'
import { inks } from '../../kernel/pdf/inks'
import type { PdfPaper } from '../../kernel/pdf/pdfPaper'
import { drawStrip } from '../../kernel/pdf/pdfShapes'
import type { CharacteristicRevisionRow } from '../library/entities'
import { detailsOf } from '../library/checkedFields'

export interface SheetLine {
  readonly line: PlanLine
  readonly characteristic: Omit<CharacteristicRevisionRow, 'details'> & { details: string | null }
}

function rule(paper: PdfPaper): void {
  paper.doc.lineWidth(0.6).strokeColor(inks.rule).moveTo(paper.left, paper.y).lineTo(paper.right, paper.y).stroke()
  paper.y += 7
}

function acceptsWords({ line, characteristic }: SheetLine): string {
  const details = detailsOf(characteristic.details)
  switch (characteristic.kind) {
    case 'measured':
      return bandWords(limitsOf(line), details.band, line.unit ?? '')
    case 'judged':
      return `Acceptable: ${characteristic.acceptableState ?? ''}`
    case 'coded':
      return `Choose: ${details.answers.map(({ code, words, verdict }) => `${code} ${words}${verdict === 'nonconforming' ? ' (does not conform)' : ''}`).join(', ')}`
    case 'counted':
      return `Count ${details.countUnit ?? 'nonconformities'}${details.faultCodes.length > 0 ? `: ${details.faultCodes.join(', ')}` : ''}`
    case 'noted':
      return 'Note what is found.'
  }
}

function limitsOf(line: PlanLine) {
  const { nominal, lower, upper } = line.detached ?? line
  return { nominal, lower, upper }
}

/** How many pieces lots of three sizes take, so that the sheet serves without a computer at hand. */
function sizesWords(sampling: SamplingRule): string {
  const sizes = [100, 500, 2000].flatMap((lot) => {
    try {
      const { sampleSize, accept } = sampleFor(sampling, lot)
      return [`lot of ${lot}: ${sampleSize}, Ac ${accept}`]
    } catch {
      return []
    }
  })
  return sizes.join(' · ')
}

function linePart(paper: PdfPaper, sheet: SheetLine, index: number): void {
  const { line, characteristic } = sheet
  const details = detailsOf(characteristic.details)
  paper.room(110)
  rule(paper)
  paper.y += paper.write(`${index + 1}  ${line.name}`, paper.left, paper.y, { font: 'strong', size: 11.5, width: 360 })
  const marks = [line.code, line.class, line.isDecisive ? 'decisive' : '', line.isRequired ? '' : 'not required', line.stage]
  paper.write(marks.filter((word) => word !== '').join(' · '), paper.right, paper.y - 14, { size: 8.5, color: inks.soft, align: 'right' })
  paper.y += paper.write(acceptsWords(sheet), paper.left, paper.y, { width: 500 })
  if (characteristic.kind === 'measured') {
    drawStrip(paper, { ...limitsOf(line), band: details.band }, [], paper.left, paper.y + 3, 260, 14)
    paper.y += 22
  }
  const sampling = line.sampling as SamplingRule
  if (characteristic.kind !== 'noted') {
    paper.y += paper.write(describeSamplingRule(sampling), paper.left, paper.y, { font: 'strong', width: 500 })
    paper.y += paper.write(sizesWords(sampling), paper.left, paper.y, { size: 8.5, color: inks.soft, width: 500 })
  }
  const facts: [string, string][] = [
    ['Parts', line.targets.map((target) => `${target.partCode} ${target.lower ?? '…'} to ${target.upper ?? '…'} ${line.unit ?? ''}`).join('; ')],
    ['Method', [characteristic.method, details.gaugeKind ?? ''].filter((word) => word !== '').join(', ')],
    ['Do', plainWords([characteristic.instruction, line.instruction].filter((word) => word !== '').join('\n'))],
    ['If it fails', details.adviceOnFailure],
    ['Responsible', details.responsible ?? ''],
  ]
  for (const [name, value] of facts) {
    if (value === '') continue
    paper.room(16)
    paper.write(name, paper.left, paper.y, { color: inks.soft })
    paper.y += Math.max(13, paper.write(value, paper.left + 66, paper.y, { width: 430 }))
  }
  paper.y += 6
}

/** What stands in stars and hashes is for the screen; on paper the words stand alone, lists stay lists. */
export function plainWords(text: string): string {
  return text.replaceAll(/^#+ /gm, '').replaceAll(/(\*\*?)(?=\S)(.{1,400}?)(?<=\S)\1/g, '$2')
}

interface PlanOnSheet {
  readonly plan: Plan
  readonly revision: Plan['revisions'][number]
  readonly lines: readonly SheetLine[]
}

/** A plan revision as an instruction sheet to hang at the bench: what is looked at, how many, what conforms, what to do when it does not. */
export const planSheet = paperOf('plan sheet', (paper, { plan, revision, lines }: PlanOnSheet, { at: printedAt, timeZone }) => {
  paper.write(`Inspection plan ${plan.code}`, paper.left, paper.y, { font: 'strong', size: 18 })
  paper.y += 26
  paper.y += paper.write(plan.name, paper.left, paper.y, { size: 12, width: 500 })
  const released =
    revision.releasedAt === null ? 'not released' : `released ${dayIn(timeZone, revision.releasedAt)} by ${revision.releasedByName ?? ''}`
  paper.y += paper.write(`Revision ${revision.revision}, ${revision.state}, ${released}`, paper.left, paper.y, {
    color: revision.state === 'released' ? inks.soft : inks.nonconforming,
  })
  if (plan.usedBy.length > 0) paper.y += paper.write(`Hangs on ${plan.usedBy.join(', ')}`, paper.left, paper.y, { color: inks.soft, width: 500 })
  paper.y += 8
  lines.forEach((line, i) => linePart(paper, line, i))
  const { count } = paper.doc.bufferedPageRange()
  for (let page = 0; page < count; page++) {
    paper.doc.switchToPage(page)
    // Below the bottom margin pdfkit would start a page by itself.
    paper.doc.page.margins.bottom = 0
    paper.write(
      `${plan.code} revision ${revision.revision} · printed ${dayIn(timeZone, printedAt)}; a printed sheet is not kept up to date`,
      paper.left,
      802,
      { size: 8, color: inks.soft },
    )
    paper.write(`${page + 1} of ${count}`, paper.right, 802, { size: 8, color: inks.soft, align: 'right' })
  }
})
