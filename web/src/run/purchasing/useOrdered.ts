import { type PurchaseOrder, type PurchaseOrderRow, run } from '@nemawashi/contract'
import { computed, type Ref } from 'vue'
import { call } from '../../shell/api'
import { figureOf } from '../../format/format'
import { againstOrder, isBlankLine, knownLine, quantityOf, type GoodsLine } from '../goods/goodsLine'
import { useOpenOrders } from './useOpenOrders'

interface Goods {
  readonly supplierId: Ref<string | null>
  readonly orderNumber: Ref<string>
  readonly lines: Ref<GoodsLine[]>
}

/** The goods of a form as they stand on a purchase order: offered, filled in from it, and held against what is open on it. */
export function useOrdered({ supplierId, orderNumber, lines }: Goods) {
  const { orders, more, order } = useOpenOrders(
    () => supplierId.value,
    () => orderNumber.value,
  )
  /** Fills in what is open; an order of which all has come leaves the lines as they are. */
  function fill(order: PurchaseOrder): void {
    supplierId.value = order.supplierId
    orderNumber.value = order.orderNumber
    const open = order.lines.filter((line) => line.open > 0)
    if (open.length > 0) lines.value = open.map((line) => knownLine(line, line.open))
  }
  /** Takes an order that was offered; lines that somebody has written in stay. */
  async function choose({ orderNumber: chosen, id }: PurchaseOrderRow): Promise<void> {
    orderNumber.value = chosen
    if (lines.value.every(isBlankLine)) fill(await call(run.getPurchaseOrder, { params: { id } }))
  }
  /** What the order says of each line; empty where it says nothing. */
  const hints = computed(() =>
    againstOrder(
      lines.value.map((line) => ({ partId: line.partId, quantity: quantityOf(line) })),
      order.value,
    ).map((open, i) => {
      const format = (quantity: number) => figureOf(quantity, lines.value[i]?.unit ?? 'piece')
      return open === null ? '' : open.beyond > 0 ? `${format(open.beyond)} more than is open` : `${format(open.open)} open on the order`
    }),
  )
  return { orders, more, fill, choose, hints }
}
