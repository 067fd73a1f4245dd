import {
  quantityByStanding,
  quantityWords,
  standings,
  standingWords,
  stripScale,
  type Acceptance,
  type Mark,
  type Standing,
  quantityText,
} from '@nemawashi/core'
import { inks } from './inks'
import type { PdfPaper } from './pdfPaper'

/** The same shapes that people write on paper check sheets: ○ △ ✕ –. */
export function drawMark({ doc }: PdfPaper, mark: Mark, x: number, y: number, r: number): void {
  doc.lineWidth(1.1).strokeColor(inks[mark])
  if (mark === 'conforming') doc.circle(x, y, r).stroke()
  else if (mark === 'marginal') doc.polygon([x, y - r], [x + r, y + r * 0.8], [x - r, y + r * 0.8]).stroke()
  else if (mark === 'nonconforming') {
    doc
      .moveTo(x - r, y - r)
      .lineTo(x + r, y + r)
      .moveTo(x + r, y - r)
      .lineTo(x - r, y + r)
      .stroke()
  } else {
    doc
      .moveTo(x - r, y)
      .lineTo(x + r, y)
      .stroke()
  }
}

/** A tolerance strip with its readings. */
/** A marginal band: slanted lines, so that it is told apart without colour. */
function hatch({ doc }: PdfPaper, x: number, y: number, width: number, height: number): void {
  doc.save().rect(x, y, width, height).clip().lineWidth(0.8).strokeColor(inks.marginal)
  for (let at = x - height; at < x + width; at += 2.4) doc.moveTo(at, y + height).lineTo(at + height, y)
  doc.stroke().restore()
}

export function drawStrip(
  paper: PdfPaper,
  limits: Acceptance,
  readings: readonly { value: number; mark: Mark }[],
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  const { doc } = paper
  const strip = stripScale(limits)
  const at = (fraction: number) => x + fraction * width
  const middle = y + height / 2
  const from = at(strip.lower ?? 0)
  const to = at(strip.upper ?? 1)
  doc
    .lineWidth(0.6)
    .strokeColor(inks.rule)
    .moveTo(x, middle)
    .lineTo(x + width, middle)
    .stroke()
  doc.rect(from, y + height * 0.2, to - from, height * 0.6).fill(inks.zone)
  for (const band of strip.bands) hatch(paper, at(band.from), y + height * 0.2, at(band.to) - at(band.from), height * 0.6)
  doc.lineWidth(0.7).strokeColor(inks.conforming)
  for (const edge of [strip.lower, strip.upper]) {
    if (edge !== null)
      doc
        .moveTo(at(edge), y + height * 0.2)
        .lineTo(at(edge), y + height * 0.8)
        .stroke()
  }
  if (strip.nominal !== null)
    doc
      .moveTo(at(strip.nominal), y)
      .lineTo(at(strip.nominal), y + height)
      .stroke()
  for (const { value, mark } of readings) drawMark(paper, mark, at(strip.place(value)), middle, height * 0.22)
}

const standingInks: Record<Standing, string> = {
  onHold: '#6A4A86',
  released: '#1D6F63',
  quarantined: '#B8322A',
  inRework: '#A86A10',
  rejected: '#8A2A22',
  scrapped: '#5B3A2A',
  returned: '#1E2A3A',
  shipped: '#27497A',
  notArrived: '#6E6A60',
  used: '#7A8190',
}

/** Where the quantity of the lot stands now, as one bar with its words below. */
export function drawQuantityBar(
  paper: PdfPaper,
  balances: readonly { standing: Standing; quantity: number }[],
  unit: string,
  x: number,
  y: number,
  width: number,
): number {
  const sums = quantityByStanding(balances)
  const together = standings.reduce((sum, standing) => sum + sums[standing], 0)
  let at = x
  for (const standing of standings) {
    const part = together === 0 ? 0 : (sums[standing] / together) * width
    if (part > 0) paper.doc.rect(at, y, part, 9).fill(standingInks[standing])
    at += part
  }
  const words = standings
    .filter((standing) => sums[standing] > 0)
    .map((standing) => `${quantityText(sums[standing], unit)} ${standingWords[standing]}`)
  return 13 + paper.write(`${words.join(' · ')} · together ${quantityWords(together, unit)}`, x, y + 12, { size: 8.5, color: inks.soft, width })
}

/** A signed decision: initials, meaning and day in a round red stamp. */
export function drawSeal(paper: PdfPaper, initials: string, meaning: string, day: string, x: number, y: number): void {
  const { doc } = paper
  doc.save()
  doc.rotate(-7, { origin: [x, y] })
  doc.lineWidth(1.6).strokeColor(inks.seal).circle(x, y, 31).stroke()
  const centred = (text: string, top: number, size: number) => {
    doc.font('strong').fontSize(size).fillColor(inks.seal)
    doc.text(text, x - doc.widthOfString(text) / 2, top, { lineBreak: false })
  }
  centred(initials, y - 17, 13)
  centred(meaning, y - 1, 7.5)
  centred(day, y + 9, 7)
  doc.restore()
}
