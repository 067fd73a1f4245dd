import { quantityWords } from '@nemawashi/core'
import type { Delivery } from '@nemawashi/contract'
import { paperOf } from '../../kernel/pdf/paper'
import { inks } from '../../kernel/pdf/inks'
import { momentIn } from '../../kernel/database/plantTime'

interface Label {
  readonly code: string
  readonly what: string
  readonly part: string
  readonly quantity: string
  readonly lot: string
  readonly supplierLot: string
}

/** One label for each container, and one for what of a lot lies loose: under the lot's own number. */
export function labelsOf({ lots }: Delivery): Label[] {
  return lots.flatMap((lot) => {
    const sums = new Map<string | null, number>()
    for (const { containerLabel, quantity, standing } of lot.balances)
      if (standing !== 'notArrived') sums.set(containerLabel, (sums.get(containerLabel) ?? 0) + quantity)
    return [...sums].map(([container, quantity]) => ({
      code: container ?? lot.code,
      what: container === null ? 'Lot' : 'Container',
      part: `${lot.partCode} ${lot.partName}`,
      quantity: quantityWords(quantity, lot.unit),
      lot: lot.code,
      supplierLot: lot.supplierLot,
    }))
  })
}

const [columns, rows] = [2, 4]
const [width, height] = [255, 176]

/** Labels of a delivery on A4, two by four, each with its number as a code that a scanner reads. */
export const labelsPaper = paperOf('labels', (paper, delivery: Delivery, printing) => {
  const received = momentIn(printing.timeZone, delivery.receivedAt)
  labelsOf(delivery).forEach((label, i) => {
    const place = i % (columns * rows)
    if (i > 0 && place === 0) paper.doc.addPage()
    const [x, y] = [paper.left + (place % columns) * width, 48 + Math.floor(place / columns) * height]
    paper.doc
      .lineWidth(0.5)
      .strokeColor(inks.rule)
      .rect(x, y, width - 8, height - 8)
      .stroke()
    const inner = width - 32
    paper.drawCode(label.code, x + 2, y + 10, { width: inner + 20, height: 44 })
    paper.write(label.code, x + 12, y + 58, { font: 'mono', size: 15 })
    paper.write(label.what, x + width - 20, y + 62, { size: 8, color: inks.soft, align: 'right' })
    const partHeight = paper.write(label.part, x + 12, y + 82, { font: 'strong', size: 11, width: inner })
    const below = y + 82 + Math.min(partHeight, 30) + 4
    paper.write(label.quantity, x + 12, below, { font: 'strong', size: 13 })
    const lines = [
      `lot ${label.lot} · their lot ${label.supplierLot}`,
      `${delivery.code} · ${delivery.supplierName} · order ${delivery.orderNumber}`,
      `received ${received}`,
    ]
    lines.forEach((line, at) => paper.write(line, x + 12, below + 20 + at * 11, { size: 8, color: inks.soft }))
  })
  paper.feet(`Labels of ${delivery.code}`, printing)
})
