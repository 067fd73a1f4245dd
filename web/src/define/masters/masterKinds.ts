import { placePurposes, placePurposeWords, refinable, stockUnitOf, stockUnits } from '@nemawashi/core'
import { define, operationKinds, partnerKinds, reasonPurposes, trackings } from '@nemawashi/contract'
import type { Component } from 'vue'
import type { ListColumn } from '../../components/listColumn'
import UnitExample from './UnitExample.vue'

/** One field of a master record's form. */
export interface MasterField {
  readonly key: string
  readonly label: string
  readonly kind: 'text' | 'maybeText' | 'whole' | 'quantity' | 'choice' | 'flag' | 'family' | 'place' | 'routing' | 'answers'
  readonly choices?: readonly string[]
  /** What a choice means, where the word alone does not say it. */
  readonly meaning?: Readonly<Record<string, string>>
  readonly hint?: string
  readonly initial: unknown
  /** Of the first of its kind in a plant, where that usually is another. */
  readonly first?: unknown
}

export interface MasterKind {
  readonly one: string
  readonly title: string
  readonly emptyText: string
  readonly area: typeof define.families
  readonly columns: readonly ListColumn[]
  readonly fields: readonly MasterField[]
  /** What the form says of itself while it is written. */
  readonly example?: Component
}

const code: ListColumn = { key: 'code', title: 'Code' }
const name: ListColumn = { key: 'name', title: 'Name' }
const uses: ListColumn = { key: 'uses', title: 'Uses', isNumber: true }
const text = (key: string, label: string, hint?: string): MasterField => ({
  key,
  label,
  kind: 'text',
  initial: '',
  ...(hint === undefined ? {} : { hint }),
})
/** Text that may be left out. */
const maybeText = (key: string, label: string, hint: string): MasterField => ({ key, label, kind: 'maybeText', initial: null, hint })
/** `first`: what the first one of a plant usually is, where that differs from the usual one of many. */
const choice = (key: string, label: string, choices: readonly string[], initial: string, first = initial): MasterField => ({
  key,
  label,
  kind: 'choice',
  choices,
  initial,
  first,
})
const flag = (key: string, label: string, initial: boolean): MasterField => ({ key, label, kind: 'flag', initial })
const named = [text('code', 'Code'), text('name', 'Name')]

/** What a part is counted in, in words: `kg, in steps of 0.01`. */
const stockUnitWords = Object.fromEntries(
  stockUnits.map((unit) => {
    const { symbol, places } = stockUnitOf(unit)
    return [
      unit,
      places === 0 ? `${symbol}${['piece', 'bar'].includes(symbol) ? '' : ', whole ones'}` : `${symbol}, in steps of ${unit.split(' ')[0]}`,
    ]
  }),
)

/** The simple records behind everything else: what their lists show and what their forms ask. */
export const masterKinds: Readonly<Record<string, MasterKind>> = {
  parts: {
    one: 'part',
    title: 'Parts',
    emptyText: 'Parts are what is bought, made or sold. Add the first one.',
    area: define.parts,
    columns: [
      code,
      name,
      { key: 'familyName', title: 'Family', isHidden: true },
      { key: 'revision', title: 'Rev.', isHidden: true },
      { key: 'unit', title: 'Unit', isHidden: true },
      { key: 'points', title: 'Control points', isNumber: true },
    ],
    fields: [
      ...named,
      text('revision', 'Revision'),
      { ...choice('unit', 'Counted in', stockUnits, 'piece'), meaning: stockUnitWords },
      choice('tracking', 'Traced by (lot or serial number)', trackings, 'lot'),
      { key: 'familyId', label: 'Family', kind: 'family', initial: null },
      { key: 'putAwayPlaceId', label: 'Put away to', kind: 'place', initial: null },
      {
        key: 'packQuantity',
        label: 'In a usual container (offered at deliveries; empty: none)',
        kind: 'quantity',
        initial: null,
      },
      {
        key: 'holdDays',
        label: 'Days on hold, as planned (empty: none)',
        kind: 'whole',
        initial: null,
      },
      { key: 'operationIds', label: 'Routing', kind: 'routing', initial: [] },
    ],
  },
  families: {
    one: 'family',
    title: 'Families',
    emptyText: 'A family holds parts that are checked alike.',
    area: define.families,
    columns: [code, name],
    fields: named,
  },
  partners: {
    one: 'partner',
    title: 'Suppliers and customers',
    emptyText: 'Add the first supplier.',
    area: define.partners,
    columns: [code, name, { key: 'kind', title: 'Kind' }, { key: 'supplierGroup', title: 'Group' }],
    fields: [
      ...named,
      choice('kind', 'Kind', partnerKinds, 'supplier'),
      text('supplierGroup', 'Group of suppliers', 'A word that suppliers share who are looked at alike; empty for none'),
      flag('isActive', 'In use', true),
    ],
  },
  places: {
    one: 'place',
    title: 'Places',
    emptyText: 'Where quantities are: docks, inspection bays, stores, the quarantine cage.',
    area: define.places,
    columns: [code, name, { key: 'purpose', title: 'Purpose' }],
    fields: [
      ...named,
      { ...choice('purpose', 'Purpose', placePurposes, 'store', 'dock'), meaning: placePurposeWords },
      flag('countsForPlanning', 'Counts for planning', true),
    ],
  },
  operations: {
    one: 'operation',
    title: 'Operations',
    emptyText: 'The steps that routings are made of, from receiving to shipping.',
    area: define.operations,
    columns: [code, name, { key: 'kind', title: 'Kind' }],
    fields: [...named, choice('kind', 'Kind', operationKinds, 'production', 'receiving')],
  },
  'answer-lists': {
    one: 'answer list',
    title: 'Answer lists',
    emptyText: 'Answers that coded characteristics offer, each with what it means for conformity.',
    area: define.answerLists,
    columns: [code, name, { key: 'answers', title: 'Answers', isNumber: true }, uses],
    fields: [...named, { key: 'answers', label: 'Answers', kind: 'answers', initial: [] }, flag('isActive', 'In use', true)],
  },
  'fault-codes': {
    one: 'fault code',
    title: 'Fault codes',
    emptyText: 'What can be wrong, in short codes: for counting, for nonconformances, for the year’s figures.',
    area: define.faultCodes,
    columns: [code, name, uses],
    fields: [...named, flag('isActive', 'In use', true)],
  },
  classes: {
    one: 'class',
    title: 'Classes',
    emptyText: 'How much a characteristic matters, from harm to looks.',
    area: define.classes,
    columns: [code, name, uses],
    fields: [...named, flag('isActive', 'In use', true)],
  },
  'finer-standings': {
    one: 'restriction',
    title: 'Restrictions',
    emptyText: 'What narrows a status of pieces, and which steps each still allows: for prototypes only, being sorted, waiting for a decision.',
    area: define.finerStandings,
    columns: [code, name, { key: 'standing', title: 'Status' }, uses],
    fields: [
      ...named,
      choice('standing', 'Status that it narrows (only what is released may be issued, picked or sent)', refinable, 'released'),
      flag('mayUse', 'May be issued to an order', true),
      flag('mayPick', 'May be picked for a dispatch', true),
      flag('mayShip', 'May be sent to a customer', true),
      flag('countsForPlanning', 'Counts for planning', true),
      flag('isActive', 'In use', true),
    ],
  },
  'gauge-kinds': {
    one: 'kind of gauge',
    title: 'Kinds of gauges',
    emptyText: 'Characteristics ask for a kind of gauge; the gauges themselves stand in the register under Equip.',
    area: define.gaugeKinds,
    columns: [{ key: 'code', title: 'Kind' }, { key: 'isAsked', title: 'Wanted by name', format: (value: boolean) => (value ? 'yes' : '') }, uses],
    fields: [
      text('code', 'Kind, as characteristics ask for it'),
      text('name', 'Name in full'),
      flag('isAsked', 'Readings want the gauge by name: the bench takes no value before it is scanned or chosen', true),
      flag('isWaivable', 'A gauge that is overdue, too coarse or of another range may be used with a reason; otherwise it is refused', false),
      flag('isActive', 'In use', true),
    ],
  },
  'measure-units': {
    one: 'unit of measure',
    title: 'Units of measure',
    emptyText: 'What measured values are in, and what converts one into another.',
    area: define.measureUnits,
    example: UnitExample,
    columns: [
      { key: 'code', title: 'Symbol' },
      name,
      { key: 'quantity', title: 'Measures' },
      { key: 'factor', title: 'Factor', isHidden: true },
      { ...uses, isHidden: true },
    ],
    fields: [
      text('code', 'Symbol'),
      text('name', 'Name'),
      text('quantity', 'Measures', 'A quantity such as length or flow, volume. Units that measure the same convert into each other'),
      maybeText('factor', 'Factor', 'How much one of it is in the unit that has factor 1: 25.4, 0.001 or 5/9. Empty where nothing converts'),
      maybeText('shift', 'Added before the factor', 'As −32 for degrees Fahrenheit; empty for nothing'),
      flag('isActive', 'In use', true),
    ],
  },
  'count-units': {
    one: 'unit of count',
    title: 'Units of count',
    emptyText: 'What is counted on what: pores on a casting, laps on a bar.',
    area: define.countUnits,
    columns: [code, name, uses],
    fields: [...named, flag('isActive', 'In use', true)],
  },
  reasons: {
    one: 'reason',
    title: 'Reasons',
    emptyText: 'Why something was skipped, corrected or decided, in words that are used again.',
    area: define.reasons,
    columns: [code, name, { key: 'purpose', title: 'For' }, uses],
    fields: [...named, choice('purpose', 'For', reasonPurposes, 'skip'), flag('isActive', 'In use', true)],
  },
}
