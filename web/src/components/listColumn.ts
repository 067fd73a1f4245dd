/** One column of a list: the field it shows, its words, and how it is written. */
export interface ListColumn {
  readonly key: string
  readonly title: string
  readonly isHidden?: boolean
  /** Left out on a phone, where there is no room beside what leads. */
  readonly isWide?: boolean
  readonly isNumber?: boolean
  /** A quantity in whole steps of the row's `unit`. */
  readonly isQuantity?: boolean
  readonly isMono?: boolean
  readonly format?: (value: never, row: never) => string
}
