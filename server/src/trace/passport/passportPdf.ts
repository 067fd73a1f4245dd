import type { Passport } from '@nemawashi/contract'
import { movementWords, quantityWords, describeOrigin, sealWords } from '@nemawashi/core'
import { paperOf } from '../../kernel/pdf/paper'
import { inks } from '../../kernel/pdf/inks'
import { drawQuantityBar, drawSeal } from '../../kernel/pdf/pdfShapes'
import { dayIn, momentIn } from '../../kernel/database/plantTime'

/** The whole story of a lot. */
export const passportPaper = paperOf('passport', (paper, { lot, balances, events, movements, underConcession }: Passport, printing) => {
  const { timeZone } = printing
  paper.doc.info.Title = `Passport of lot ${lot.code}`
  paper.write(`Passport of lot ${lot.code}`, paper.left, paper.y, { font: 'strong', size: 18 })
  paper.y += 26
  paper.write(`${lot.partCode} ${lot.partName}, ${quantityWords(lot.quantity, lot.unit)}`, paper.left, paper.y, { size: 11 })
  paper.y += 18
  paper.y += paper.write(describeOrigin(lot), paper.left, paper.y) + 6
  paper.y += drawQuantityBar(paper, balances, lot.unit, paper.left, paper.y, paper.right - paper.left) + 6
  if (underConcession > 0)
    paper.y += paper.write(`${quantityWords(underConcession, lot.unit)} used under concession`, paper.left, paper.y, { font: 'strong' }) + 6
  for (const event of events) {
    paper.room(event.seal ? 66 : 30)
    const top = paper.y
    paper.write(momentIn(timeZone, event.at), paper.left, paper.y, { size: 8.5, color: inks.soft })
    paper.y += paper.write(event.title, paper.left + 90, paper.y, { font: 'strong', width: 340 })
    if (event.detail !== '') paper.y += paper.write(event.detail, paper.left + 90, paper.y, { size: 8.5, width: 340 })
    if (event.byName !== null) paper.y += paper.write(event.byName, paper.left + 90, paper.y, { size: 8.5, color: inks.soft })
    if (event.seal) {
      drawSeal(paper, event.seal.initials, sealWords[event.seal.meaning], dayIn(timeZone, event.seal.signedAt), paper.right - 34, top + 28)
      paper.y = Math.max(paper.y, top + 62)
    }
    paper.y += 6
  }
  paper.room(60)
  paper.y += paper.write('Movements', paper.left, paper.y, { font: 'strong', size: 12 }) + 4
  for (const { at, quantity, containerLabel, from, to, kind, byName } of movements) {
    paper.room(28)
    paper.write(momentIn(timeZone, at), paper.left, paper.y, { size: 8.5, color: inks.soft })
    paper.write(String(quantity), paper.left + 125, paper.y, { font: 'mono', size: 8.5, align: 'right' })
    const words = `${containerLabel === null ? '' : `${containerLabel}: `}${from ?? 'outside'} → ${to} (${movementWords[kind]}, ${byName})`
    paper.y += paper.write(words, paper.left + 132, paper.y, { size: 8.5, width: 375 })
  }
  paper.feet(`Lot ${lot.code}`, printing)
})
