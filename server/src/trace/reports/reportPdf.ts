import {
  acceptsOf,
  gaugesThatMeasured,
  hasValues,
  minutesLateOf,
  reportedPieces,
  type Decision,
  type Inspection,
  type InspectionLine,
  type Reading,
} from '@nemawashi/contract'
import {
  answerWords,
  dispositionWords,
  quantityWords,
  describeFinding,
  describeGaugeUse,
  describeLine,
  describeOrigin,
  lateWords,
  sealWords,
  standingWords,
  quantityText,
  stockUnitOf,
} from '@nemawashi/core'
import { paperOf } from '../../kernel/pdf/paper'
import { inks } from '../../kernel/pdf/inks'
import type { PdfPaper, Printing } from '../../kernel/pdf/pdfPaper'
import { dayIn, momentIn } from '../../kernel/database/plantTime'
import { evidencePart, type Pictures } from './evidencePart'
import { drawMark, drawQuantityBar, drawSeal, drawStrip } from '../../kernel/pdf/pdfShapes'

function head(paper: PdfPaper, inspection: Inspection, { timeZone }: Printing): void {
  const moment = (instant: string | null) => (instant === null ? '–' : momentIn(timeZone, instant))
  paper.write(`Inspection report ${inspection.code}`, paper.left, paper.y, { font: 'strong', size: 18 })
  paper.y += 26
  paper.write(`${inspection.partCode} ${inspection.partName}, revision ${inspection.partRevision}`, paper.left, paper.y, { size: 11, width: 400 })
  paper.y += 20
  const facts: [string, string][] = [
    [
      'Lot',
      `${[inspection.lotCode, inspection.unitLabel].filter(Boolean).join(', ')}, ${quantityWords(inspection.lotSize, stockUnitOf(inspection.unit).symbol)}`,
    ],
    ['From', describeOrigin(inspection)],
    ['Plan', `${inspection.planCode} ${inspection.planName}, revision ${inspection.planRevision}`],
    ['Operation', `${inspection.operationName}${inspection.isGate ? ', gate before put-away' : ''}`],
    ...(inspection.openReason === null
      ? []
      : [['Opened', `by hand, by ${inspection.openedByName ?? '–'}: ${inspection.openReason}`] as [string, string]]),
    ['Started', `${moment(inspection.startedAt)}, ${inspection.startedByName ?? '–'}`],
    ...(inspection.dueAt === null ? [] : [['Due', moment(inspection.dueAt)] as [string, string]]),
    ['Finished', [moment(inspection.finishedAt), inspection.finishedByName ?? '–', lateWords(minutesLateOf(inspection))].filter(Boolean).join(', ')],
  ]
  for (const [name, value] of facts) {
    paper.write(name, paper.left, paper.y, { color: inks.soft })
    paper.y += Math.max(14, paper.write(value, paper.left + 70, paper.y, { width: 360 }))
  }
  const { decision } = inspection
  if (decision) drawSeal(paper, decision.initials, sealWords[decision.meaning], dayIn(timeZone, decision.signedAt), paper.right - 38, 86)
  paper.y += 8
}

function rule(paper: PdfPaper): void {
  paper.doc.lineWidth(0.6).strokeColor(inks.rule).moveTo(paper.left, paper.y).lineTo(paper.right, paper.y).stroke()
  paper.y += 8
}

function verdictMark(verdict: string): 'conforming' | 'nonconforming' | 'notJudged' {
  return verdict === 'acceptable' ? 'conforming' : verdict === 'notAcceptable' ? 'nonconforming' : 'notJudged'
}

function findingPart(paper: PdfPaper, inspection: Inspection): void {
  rule(paper)
  const mark = verdictMark(inspection.finding.verdict)
  drawMark(paper, mark, paper.left + 6, paper.y + 7, 5)
  paper.y +=
    paper.write(describeFinding(inspection.finding), paper.left + 18, paper.y, { font: 'strong', size: 11, color: inks[mark], width: 480 }) + 6
  paper.y += drawQuantityBar(paper, inspection.balances, inspection.unit, paper.left, paper.y, paper.right - paper.left) + 8
}

const columns = 4
/** Beyond this the report lists the nonconforming pieces and points to the CSV for the rest: a thousand pages serve nobody. */
const maxListed = 2000

function readingsPart(paper: PdfPaper, line: InspectionLine, readings: readonly Reading[]): void {
  const pieces = reportedPieces(line, readings)
  if (pieces > maxListed) return nonconformingPart(paper, line, readings)
  if (line.kind !== 'judged' && !hasValues(line)) return answersPart(paper, readings)
  const width = (paper.right - paper.left) / columns
  const byPiece = new Map(readings.map((reading) => [reading.piece, reading]))
  for (let row = 0; row * columns < pieces; row++) {
    paper.room(15)
    for (let column = 0; column < columns; column++) {
      const piece = row * columns + column + 1
      if (piece > pieces) break
      const x = paper.left + column * width
      const reading = byPiece.get(piece)
      paper.write(String(piece), x + 18, paper.y, { size: 8, color: inks.soft, align: 'right' })
      drawMark(paper, reading?.mark ?? 'notJudged', x + 28, paper.y + 5, 3)
      if (line.kind === 'measured') {
        paper.write(reading?.value ?? '–', x + 70, paper.y, { font: 'mono', size: 8.5, align: 'right' })
        const dots = reading?.value ? [{ value: Number(reading.value), mark: reading.mark }] : []
        drawStrip(paper, { ...line, band: line.details.band }, dots, x + 75, paper.y, width - 84, 10)
      }
      if (reading && reading.corrections > 0)
        paper.write('corrected', x + (line.kind === 'measured' ? 75 : 38), paper.y + 8, { size: 5, color: inks.soft })
    }
    paper.y += 14
  }
}

/** Answers that are words and not values: one a line. */
function answersPart(paper: PdfPaper, readings: readonly Reading[]): void {
  for (const reading of readings) {
    paper.room(16)
    paper.write(String(reading.piece), paper.left + 18, paper.y, { size: 8, color: inks.soft, align: 'right' })
    drawMark(paper, reading.mark, paper.left + 28, paper.y + 5, 3)
    paper.y += Math.max(14, paper.write(answerWords(reading.value ?? '–'), paper.left + 40, paper.y, { size: 8.5, width: 460 }))
  }
}

function nonconformingPart(paper: PdfPaper, line: InspectionLine, readings: readonly Reading[]): void {
  const bad = readings.filter((reading) => reading.mark === 'nonconforming').slice(0, maxListed)
  const words = `${readings.length} of ${line.sampleSize} pieces answered. Listed here are the nonconforming ones${bad.length === maxListed ? `, the first ${maxListed}` : ''}; every reading is in the CSV and JSON of this report.`
  paper.y += paper.write(words, paper.left, paper.y, { size: 8.5, color: inks.soft, width: 500 }) + 3
  const listed = bad.map((reading) => `piece ${reading.piece}${line.kind === 'measured' ? `: ${reading.value}` : ''}`)
  for (let at = 0; at < listed.length; at += 5) {
    paper.room(14)
    paper.y += paper.write(listed.slice(at, at + 5).join('   '), paper.left, paper.y, { font: 'mono', size: 8.5 })
  }
}

/** Lines of the plan that were not asked here: another inspection asks them, or somebody dropped them. */
function notAskedPart(paper: PdfPaper, { leftOut, dropped }: Inspection, { timeZone }: Printing): void {
  const words = [
    ...leftOut.map(({ name, code }) => `${name}: asked once, with ${code}`),
    ...dropped.map(
      ({ name, sampleSize, byName, at, reason }) => `${name} (n ${sampleSize}): dropped by ${byName}, ${momentIn(timeZone, at)}: ${reason}`,
    ),
  ]
  if (words.length === 0) return
  paper.room(30 + 14 * words.length)
  rule(paper)
  paper.y += paper.write('Not asked here', paper.left, paper.y, { font: 'strong', size: 11 })
  for (const line of words) paper.y += paper.write(line, paper.left, paper.y, { size: 8.5, width: 500 })
}

function linePart(paper: PdfPaper, inspection: Inspection, line: InspectionLine, index: number, pictures: Pictures): void {
  paper.room(92)
  rule(paper)
  const finding = inspection.finding.lines[index]
  const readings = inspection.readings.filter((reading) => reading.lineId === line.id && reading.value !== null)
  paper.y += paper.write(`${index + 1}  ${line.name}`, paper.left, paper.y, { font: 'strong', size: 11, width: 400 })
  paper.write(
    `${line.code} revision ${line.revision} · ${line.class}${line.isDecisive ? ' · decisive' : ''}${line.isRequired ? '' : ' · not required'}`,
    paper.right,
    paper.y - 14,
    {
      size: 8.5,
      color: inks.soft,
      align: 'right',
    },
  )
  paper.y += paper.write(`${acceptsOf(line)}${line.method ? ` · ${line.method}` : ''}`, paper.left, paper.y, { width: 500 })
  for (const use of gaugesThatMeasured(inspection, line.id))
    paper.y += paper.write(`Measured with ${describeGaugeUse(use)}`, paper.left, paper.y, {
      size: 8.5,
      width: 500,
      ...(use.reason ? {} : { color: inks.soft }),
    })
  const typedFor = new Set(readings.flatMap((reading) => (reading.inspectedByName === null ? [] : [reading.inspectedByName])))
  if (typedFor.size > 0)
    paper.y += paper.write(`Inspected by ${[...typedFor].join(', ')}, typed by another`, paper.left, paper.y, {
      size: 8.5,
      color: inks.soft,
      width: 500,
    })
  paper.y += paper.write(line.samplingReasoning, paper.left, paper.y, { size: 8.5, color: inks.soft, width: 500 })
  if (hasValues(line)) {
    drawStrip(
      paper,
      { ...line, band: line.details.band },
      readings.slice(0, maxListed).map((reading) => ({ value: Number(reading.value), mark: reading.mark })),
      paper.left,
      paper.y + 3,
      300,
      16,
    )
    paper.y += 22
  }
  const mark = verdictMark(finding?.verdict ?? 'notJudged')
  drawMark(paper, mark, paper.left + 5, paper.y + 6, 4)
  paper.y += paper.write(finding ? describeLine(finding) : '', paper.left + 16, paper.y, { color: inks[mark], width: 480 }) + 5
  const skip = inspection.skips.find(({ lineId }) => lineId === line.id)
  if (skip) paper.y += paper.write(`Left blank: ${skip.reason}`, paper.left + 16, paper.y, { width: 480 }) + 3
  readingsPart(paper, line, readings)
  evidencePart(
    paper,
    inspection.evidence.filter(({ lineId }) => lineId === line.id),
    pictures,
  )
  paper.y += 6
}

function decisionPart(paper: PdfPaper, inspection: Inspection, printing: Printing): void {
  paper.room(60)
  rule(paper)
  if (inspection.cancelledAt !== null) {
    const words = `Cancelled ${momentIn(printing.timeZone, inspection.cancelledAt)} by ${inspection.cancelledByName}: ${inspection.cancelReason}`
    paper.y += paper.write(words, paper.left, paper.y, { font: 'strong', size: 11, width: 500 })
    return
  }
  if (!inspection.decision) {
    paper.y += paper.write('Not decided yet.', paper.left, paper.y, { font: 'strong', size: 11 })
    return
  }
  // Decisions that came after this one belong to the story of what it decided.
  const own = inspection.decision
  for (const decision of [own, ...inspection.decisions.filter(({ followsId }) => followsId !== null)])
    decisionRows(paper, decision, inspection.unit, printing)
}

function decisionRows(paper: PdfPaper, decision: Decision, unit: string, { timeZone }: Printing): void {
  paper.room(40)
  const verb = decision.followsId === null ? 'Decided' : 'Decided anew'
  const words = `${verb} ${momentIn(timeZone, decision.signedAt)} by ${decision.signedByName}: ${sealWords[decision.meaning]}`
  paper.y += paper.write(words, paper.left, paper.y, { font: 'strong', size: 11, width: 500 }) + 4
  for (const row of decision.rows) {
    paper.room(18)
    paper.write(quantityText(row.quantity, unit), paper.left + 60, paper.y, { font: 'mono', align: 'right' })
    paper.write(`${stockUnitOf(unit).symbol}${row.containerLabel ? `, ${row.containerLabel}` : ''}`, paper.left + 66, paper.y)
    paper.write(dispositionWords[row.disposition], paper.left + 170, paper.y)
    const was = row.standing === null ? '' : `was ${standingWords[row.standing]} in ${row.placeName}. `
    paper.y += Math.max(14, paper.write(was + row.reason, paper.left + 300, paper.y, { color: inks.soft, width: 210 }))
  }
}

/** The inspection report: what was found, line by line, and what was decided on it. */
export const reportPaper = paperOf(
  'inspection report',
  (paper, { inspection, pictures }: { inspection: Inspection; pictures: Pictures }, printing) => {
    paper.doc.info.Title = `Inspection report ${inspection.code}`
    head(paper, inspection, printing)
    findingPart(paper, inspection)
    inspection.lines.forEach((line, index) => linePart(paper, inspection, line, index, pictures))
    evidencePart(
      paper,
      inspection.evidence.filter(({ lineId }) => lineId === null),
      pictures,
    )
    notAskedPart(paper, inspection, printing)
    decisionPart(paper, inspection, printing)
    paper.feet(`${inspection.code} · lot ${inspection.lotCode}`, printing)
  },
)
