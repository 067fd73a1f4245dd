import { describeEvidence } from '@nemawashi/core'
import type { Evidence } from '@nemawashi/contract'
import { inks } from '../../kernel/pdf/inks'
import type { PdfPaper } from '../../kernel/pdf/pdfPaper'

/** The pictures of a report by the id of their document; a picture that is not among them is named and not drawn. */
export type Pictures = Readonly<Record<string, Uint8Array>>

/** How wide and how high a picture on paper is at most, in points. */
const [widest, highest] = [200, 150]

/** What the library knows of a picture before it is drawn; its types say nothing of it. */
interface PictureOpener {
  openImage(content: Buffer): { readonly width: number; readonly height: number }
}

/** A picture as large as there is room for, with its place marked; false where it is none that paper takes. */
function drawPicture(paper: PdfPaper, content: Uint8Array, place: Evidence['place'], x: number): boolean {
  const bytes = Buffer.from(content)
  try {
    const { width, height } = (paper.doc as typeof paper.doc & PictureOpener).openImage(bytes)
    const scale = Math.min(widest / width, highest / height, 1)
    paper.room(height * scale + 8)
    paper.doc.image(bytes, x, paper.y, { width: width * scale, height: height * scale })
    if (place) {
      const [markX, markY] = [x + (place.x / 1000) * width * scale, paper.y + (place.y / 1000) * height * scale]
      paper.doc.lineWidth(3).strokeColor('#FFFFFF').circle(markX, markY, 9).stroke()
      paper.doc.lineWidth(1.6).strokeColor(inks.nonconforming).circle(markX, markY, 9).stroke()
    }
    paper.y += height * scale + 6
    return true
  } catch {
    return false
  }
}

/** What was said of pieces beyond their answers, with its pictures. */
export function evidencePart(paper: PdfPaper, evidence: readonly Evidence[], pictures: Pictures): void {
  for (const entry of evidence) {
    const { document, faultName, faultCode, byName } = entry
    const name = faultCode !== null && faultName !== null ? ` (${faultName})` : ''
    const file = document === null ? '' : `, ${document.name}`
    paper.room(16)
    paper.y += paper.write(`${describeEvidence(entry)}${name}${file} – ${byName}`, paper.left + 16, paper.y, { size: 8.5, width: 480 }) + 2
    const content = document && pictures[document.id]
    if (content && !drawPicture(paper, content, entry.place, paper.left + 16))
      paper.y +=
        paper.write('The picture cannot be drawn here; it stands in the passport.', paper.left + 16, paper.y, { size: 8, color: inks.soft }) + 2
  }
}
