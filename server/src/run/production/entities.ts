import type { ReportKind } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

export interface ProductionOrderRow {
  id: string
  code: string
  partId: string
  quantity: number
  /** The order that it is made for, as it is called there; empty where it is made for stock. */
  orderNumber: string
  customerId: string | null
  /** What its pieces are told apart by; given when it is released, before the first check. */
  lotId: string | null
  state: 'planned' | 'released' | 'finished' | 'cancelled'
  createdAt: string
  releasedAt: string | null
  finishedAt: string | null
  version: number
}
export const ProductionOrderEntity = new EntitySchema<ProductionOrderRow>({
  name: 'production_order',
  columns: {
    id,
    code: uniqueText,
    partId: references('part'),
    quantity: int,
    orderNumber: text,
    customerId: mayReference('partner'),
    lotId: mayReference('lot'),
    state: text,
    createdAt: text,
    releasedAt: maybeText,
    finishedAt: maybeText,
    version: int,
  },
  indices: [
    { name: 'production_order_state', columns: ['state', 'createdAt', 'id'] },
    { name: 'production_order_lot', columns: ['lotId'] },
  ],
})

export interface OrderStepRow {
  id: string
  orderId: string
  position: number
  operationId: string
  state: 'waiting' | 'running' | 'confirmed'
  /** The occasions of its start and of its confirmation. */
  startId: string | null
  endId: string | null
  good: number
  scrapped: number
  setAside: number
}
export const OrderStepEntity = new EntitySchema<OrderStepRow>({
  name: 'order_step',
  columns: {
    id,
    orderId: references('production_order'),
    position: int,
    operationId: references('operation'),
    state: text,
    startId: mayReference('occasion'),
    endId: mayReference('occasion'),
    good: int,
    scrapped: int,
    setAside: int,
  },
  uniques: [{ name: 'order_step_position', columns: ['orderId', 'position'] }],
})

export interface StepReportRow {
  id: string
  stepId: string
  kind: ReportKind
  /** Pieces that it tells of; zero where it tells of none. */
  good: number
  scrapped: number
  setAside: number
  /** Pieces of the step that were made up to then, good or not, and whole minutes that it had run. */
  done: number
  minutes: number
  note: string
}
/** What an occasion has in addition when a running step tells of itself. Only added to. */
export const StepReportEntity = new EntitySchema<StepReportRow>({
  name: 'step_report',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    stepId: references('order_step'),
    kind: text,
    good: int,
    scrapped: int,
    setAside: int,
    done: int,
    minutes: int,
    note: text,
  },
  indices: [{ name: 'step_report_step', columns: ['stepId'] }],
})
