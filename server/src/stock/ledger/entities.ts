import type { MovementKind, OccasionKind, PutAwayMoment, Standing } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

/** What happened at an operation: a delivery arrived, later a step was finished, a lot was sent or came back. */
export interface OccasionRow {
  id: string
  kind: OccasionKind
  /** The step of the routing at which it happened, and the moment of it; null where it belongs to none. */
  operationId: string | null
  moment: string
  /** Who it came from or went to. */
  partnerId: string | null
  /** The order that it belongs to, as it is called there; empty where there is none. */
  orderNumber: string
  /** Where it happened, and where things came from. */
  placeId: string | null
  fromPlaceId: string | null
  at: string
  personId: string
}
export const OccasionEntity = new EntitySchema<OccasionRow>({
  name: 'occasion',
  columns: {
    id,
    kind: text,
    operationId: mayReference('operation'),
    moment: text,
    partnerId: mayReference('partner'),
    orderNumber: text,
    placeId: mayReference('place'),
    fromPlaceId: mayReference('place'),
    at: text,
    personId: references('person'),
  },
  indices: [
    { name: 'occasion_at', columns: ['kind', 'at', 'id'] },
    { name: 'occasion_partner', columns: ['partnerId', 'orderNumber'] },
  ],
})

export interface LotRow {
  id: string
  code: string
  partId: string
  /** The occasion at which it came to be. */
  originId: string
  /** Who it came from; null where it was made here. */
  supplierId: string | null
  /** What they call it; empty where it was made here. */
  supplierLot: string
  quantity: number
  createdAt: string
}
export const LotEntity = new EntitySchema<LotRow>({
  name: 'lot',
  columns: {
    id,
    code: uniqueText,
    partId: references('part'),
    originId: references('occasion'),
    supplierId: mayReference('partner'),
    supplierLot: text,
    quantity: int,
    createdAt: text,
  },
  indices: [
    { name: 'lot_origin', columns: ['originId'] },
    { name: 'lot_created', columns: ['createdAt', 'id'] },
    { name: 'lot_part', columns: ['partId', 'createdAt'] },
    { name: 'lot_supplier', columns: ['supplierId', 'createdAt'] },
    { name: 'lot_supplier_lot', columns: ['supplierLot'], where: `"supplier_lot" <> ''` },
  ],
})

export interface LotUseRow {
  id: string
  fromLotId: string
  toLotId: string
  quantity: number
  occasionId: string
  at: string
}
/** Lineage: which quantity of which lot went into which. Only added to. */
export const LotUseEntity = new EntitySchema<LotUseRow>({
  name: 'lot_use',
  columns: { id, fromLotId: references('lot'), toLotId: references('lot'), quantity: int, occasionId: references('occasion'), at: text },
  checks: [
    { name: 'lot_use_quantity', expression: `"quantity" > 0 AND typeof("quantity") = 'integer'` },
    { name: 'lot_use_other', expression: '"from_lot_id" <> "to_lot_id"' },
  ],
  indices: [
    { name: 'lot_use_from', columns: ['fromLotId'] },
    { name: 'lot_use_to', columns: ['toLotId'] },
  ],
})

export interface ContainerRow {
  id: string
  lotId: string
  /** What is written on it; no two in the plant say the same. */
  label: string
  /** The serial number of a piece, which is told apart as a container of one is; null for a container. */
  serial: string | null
  quantity: number
}
export const ContainerEntity = new EntitySchema<ContainerRow>({
  name: 'container',
  columns: { id, lotId: references('lot'), label: uniqueText, serial: maybeText, quantity: int },
  indices: [
    { name: 'container_lot', columns: ['lotId'] },
    { name: 'container_serial', columns: ['serial'], where: '"serial" IS NOT NULL' },
  ],
})

export interface MovementRow {
  seq?: number
  lotId: string
  containerId: string | null
  quantity: number
  fromPlaceId: string | null
  fromStanding: Standing | null
  toPlaceId: string
  toStanding: Standing
  /** Which of the lot's pieces they were, and are (core: `Sublot`). */
  fromSublot: string
  toSublot: string
  kind: MovementKind
  /** What it belongs to: the occasion at which it happened, the decision that it carries out, or the hold that it opens or ends. */
  occasionId: string | null
  decisionId: string | null
  holdId: string | null
  at: string
  personId: string
}

/** The ledger. Triggers of the migrations refuse changing, deleting, overdrawing and a second arrival. */
export const MovementEntity = new EntitySchema<MovementRow>({
  name: 'movement',
  columns: {
    seq: { type: 'integer', primary: true, generated: 'increment' },
    lotId: references('lot'),
    containerId: mayReference('container'),
    quantity: int,
    fromPlaceId: mayReference('place'),
    fromStanding: maybeText,
    toPlaceId: references('place'),
    toStanding: text,
    fromSublot: { type: 'text', default: '' },
    toSublot: { type: 'text', default: '' },
    kind: text,
    occasionId: mayReference('occasion'),
    decisionId: mayReference('decision'),
    holdId: mayReference('hold'),
    at: text,
    personId: references('person'),
  },
  checks: [
    { name: 'movement_quantity', expression: `"quantity" > 0 AND typeof("quantity") = 'integer'` },
    { name: 'movement_from', expression: '("from_place_id" IS NULL) = ("from_standing" IS NULL)' },
  ],
  indices: [
    { name: 'movement_lot', columns: ['lotId', 'seq'] },
    { name: 'movement_container', columns: ['containerId'], where: '"container_id" IS NOT NULL' },
    { name: 'movement_occasion', columns: ['occasionId'], where: '"occasion_id" IS NOT NULL' },
    { name: 'movement_decision', columns: ['decisionId'], where: '"decision_id" IS NOT NULL' },
    { name: 'movement_hold', columns: ['holdId'], where: '"hold_id" IS NOT NULL' },
  ],
})

export interface BalanceSheetRow {
  lotId: string
  /** Empty for pieces that lie in no container. */
  containerId: string
  placeId: string
  standing: Standing
  /** Empty for the rest of the lot. */
  sublot: string
  quantity: number
  /** The movement that first brought pieces there. */
  sinceSeq: number
}
/** What stands where now: the sum of the movements, kept by triggers in the same transaction, and never below zero. */
export const BalanceEntity = new EntitySchema<BalanceSheetRow>({
  name: 'balance',
  columns: {
    lotId: { type: 'text', primary: true },
    containerId: { type: 'text', primary: true },
    placeId: { type: 'text', primary: true },
    standing: { type: 'text', primary: true },
    sublot: { type: 'text', primary: true },
    quantity: int,
    sinceSeq: int,
  },
  checks: [{ name: 'balance_not_negative', expression: '"quantity" >= 0' }],
  indices: [{ name: 'balance_standing', columns: ['standing', 'lotId'], where: '"quantity" > 0' }],
})

export interface HoldRow {
  id: string
  lotId: string
  /** The container that is held; null for whatever the pieces are in. */
  containerId: string | null
  /** The event that set the pieces apart which are held; null for the whole lot. */
  eventId: string | null
  /** How many pieces it holds; null for all of them. */
  quantity: number | null
  /** What holds: an inspection, by its id and its number. */
  causeKind: 'inspection'
  causeId: string
  causeCode: string
  openedAt: string
  /** Null while it holds. */
  closedAt: string | null
  closedById: string | null
  /** The decision that ended it; null where it was called off. */
  decisionId: string | null
}
/** Who holds which pieces. Pieces are free when no hold on them is open; ending one leaves the others. */
export const HoldEntity = new EntitySchema<HoldRow>({
  name: 'hold',
  columns: {
    id,
    lotId: references('lot'),
    containerId: mayReference('container'),
    eventId: maybeText,
    quantity: { type: 'integer', nullable: true },
    causeKind: text,
    causeId: text,
    causeCode: text,
    openedAt: text,
    closedAt: maybeText,
    closedById: mayReference('person'),
    decisionId: mayReference('decision'),
  },
  indices: [
    { name: 'hold_lot', columns: ['lotId'] },
    { name: 'hold_cause', columns: ['causeId'] },
  ],
})

export interface LotStandingRow {
  id: string
  lotId: string
  /** The container or serial number that it is of; null for all of the lot. */
  containerId: string | null
  finerId: string
  reason: string
  at: string
  personId: string
  /** Null while it stands. */
  endedAt: string | null
  endedById: string | null
}
/** Which finer standings were given to pieces of a lot, why, and until when. */
export const LotStandingEntity = new EntitySchema<LotStandingRow>({
  name: 'lot_standing',
  columns: {
    id,
    lotId: references('lot'),
    containerId: mayReference('container'),
    finerId: references('finer_standing'),
    reason: text,
    at: text,
    personId: references('person'),
    endedAt: maybeText,
    endedById: mayReference('person'),
  },
  indices: [{ name: 'lot_standing_lot', columns: ['lotId'] }],
})

export interface PutAwayRuleRow {
  id: string
  /** Its place in the list: the first that matches counts. */
  position: number
  name: string
  /** What it is for; null for every one. */
  partId: string | null
  familyId: string | null
  supplierId: string | null
  standing: Standing | null
  moment: PutAwayMoment
  /** Where the pieces have to be; null for anywhere. */
  fromPlaceId: string | null
  toPlaceId: string
  /** Retired ones stay, for the transfers that they sent. */
  state: 'active' | 'retired'
  version: number
}
/** The ordered list that says where pieces belong. */
export const PutAwayRuleEntity = new EntitySchema<PutAwayRuleRow>({
  name: 'put_away_rule',
  columns: {
    id,
    position: int,
    name: text,
    partId: mayReference('part'),
    familyId: mayReference('family'),
    supplierId: mayReference('partner'),
    standing: maybeText,
    moment: text,
    fromPlaceId: mayReference('place'),
    toPlaceId: references('place'),
    state: text,
    version: int,
  },
})
