import { quantityWords } from '@nemawashi/core'
import type { Dispatch } from '@nemawashi/contract'
import { paperOf } from '../../kernel/pdf/paper'
import { inks } from '../../kernel/pdf/inks'
import { momentIn } from '../../kernel/database/plantTime'

const stateWords: Readonly<Record<Dispatch['state'], string>> = {
  planned: 'PLANNED ONLY: nothing is picked, and this is no delivery note',
  picked: 'NOT SENT YET: this is no delivery note before the goods have left',
  sent: '',
  cancelled: 'CANCELLED: nothing was sent with this number',
}

/** The delivery note of a dispatch: what goes to whom, lot by lot, with room for who takes it over. */
export const notePaper = paperOf('delivery note', (paper, dispatch: Dispatch, printing) => {
  const { left, right } = paper
  const moment = (instant: string) => momentIn(printing.timeZone, instant)
  paper.write('Delivery note', left, paper.y, { font: 'strong', size: 18 })
  paper.write(dispatch.code, right, paper.y + 4, { font: 'mono', size: 14, align: 'right' })
  paper.drawCode(dispatch.code, right - 130, paper.y + 26, { width: 130, height: 28 })
  paper.y += 34
  const facts = [
    ['To', dispatch.customerName],
    ['Order', dispatch.orderNumber],
    ['Picked', dispatch.pickedAt === null ? '–' : `${moment(dispatch.pickedAt)} by ${dispatch.pickedByName}`],
    ['Sent', dispatch.sentAt === null ? '–' : moment(dispatch.sentAt)],
  ] as const
  for (const [name, value] of facts) {
    paper.write(name, left, paper.y, { color: inks.soft })
    paper.y += paper.write(value, left + 60, paper.y, { width: 300 }) + 2
  }
  const said = stateWords[dispatch.state]
  if (said !== '') paper.y += paper.write(said, left, paper.y + 6, { font: 'strong', size: 11, color: inks.nonconforming, width: right - left }) + 8
  for (const gate of dispatch.gates) paper.y += paper.write(gate, left, paper.y, { size: 9, color: inks.nonconforming, width: right - left })
  paper.y += 16
  const column = { part: left, lot: left + 230, container: left + 320, quantity: right }
  const rule = () => paper.doc.lineWidth(0.5).strokeColor(inks.rule).moveTo(left, paper.y).lineTo(right, paper.y).stroke()
  const heads = () => {
    for (const [words, x] of [
      ['Part', column.part],
      ['Lot', column.lot],
      ['Container', column.container],
    ] as const)
      paper.write(words, x, paper.y, { font: 'strong', size: 8.5, color: inks.soft })
    paper.write('Quantity', column.quantity, paper.y, { font: 'strong', size: 8.5, color: inks.soft, align: 'right' })
    paper.y += 14
    rule()
    paper.y += 5
  }
  heads()
  for (const pick of dispatch.picks) {
    if (paper.room(34)) heads()
    const height = paper.write(`${pick.partCode} ${pick.partName}`, column.part, paper.y, { width: 220 })
    paper.write(pick.lotCode, column.lot, paper.y, { font: 'mono', size: 9 })
    paper.write(pick.containerLabel ?? 'loose', column.container, paper.y, { font: 'mono', size: 9 })
    paper.write(quantityWords(pick.quantity, pick.unit), column.quantity, paper.y, { align: 'right' })
    paper.y += height + 3
    rule()
    paper.y += 5
  }
  paper.room(70)
  paper.y += 36
  for (const [words, x] of [
    ['Handed over by, date', left],
    ['Received in good order by, date', left + 270],
  ] as const) {
    paper.doc
      .lineWidth(0.5)
      .strokeColor(inks.soft)
      .moveTo(x, paper.y)
      .lineTo(x + 230, paper.y)
      .stroke()
    paper.write(words, x, paper.y + 4, { size: 8, color: inks.soft })
  }
  paper.feet(`Delivery note ${dispatch.code}`, printing)
})
