import { answerPlaces, holdExtents, keptFroms, onFailures } from '@nemawashi/core'
import { z } from 'zod'
import { Id, Quantity, words } from '../wire/endpoint'
import { InspectionState } from '../stock/stock'

/** Without a label a container gets the plant's next number. */
export const ContainerInput = z.strictObject({ label: words(60).nullable(), quantity: Quantity })

/** How a load came, as it is written down at the dock; empty where nothing was. */
const said = z.string().trim().max(60, 'at most 60 characters').default('')
export const LoadFacts = z.strictObject({ carrier: said, vehicle: said, driver: said, seal: said, loadNumber: said })
export type LoadFacts = z.output<typeof LoadFacts>
/** Nothing was written down. */
export const noLoad: LoadFacts = { carrier: '', vehicle: '', driver: '', seal: '', loadNumber: '' }
/** Of something that came, how it did. */
export const loadFactsOf = ({ carrier, vehicle, driver, seal, loadNumber }: LoadFacts): LoadFacts => ({ carrier, vehicle, driver, seal, loadNumber })

/** What comes with goods on paper. */
export const paperKinds = ['certificate', 'deliveryNote', 'other'] as const
export type PaperKind = (typeof paperKinds)[number]
export const paperWords: Readonly<Record<PaperKind, string>> = {
  certificate: "supplier's certificate",
  deliveryNote: 'delivery note',
  other: 'other paper',
}

/** An inspection as it stands beside what it is asked of. */
export const AskedOf = z.strictObject({
  id: Id,
  code: z.string(),
  planName: z.string(),
  state: InspectionState,
  isGate: z.boolean(),
  /** What is, or was, on hold for it, null for nothing; and what happens when it fails without being a gate. */
  holds: z.enum(holdExtents).nullable(),
  onFailure: z.enum(onFailures),
  /** Where it is answered: at the bench, or by whoever receives. */
  answeredAt: z.enum(answerPlaces),
  /** What a gate keeps its pieces from. */
  keepsFrom: z.enum(keptFroms),
  holdPlaceName: z.string().nullable(),
  /** The container or serial number that it looks at; null for all of it. */
  containerId: Id.nullable(),
  /** The event whose pieces of the lot it looks at, where one set them apart; null for all of it. */
  eventId: Id.nullable(),
  unitLabel: z.string().nullable(),
  lines: z.array(z.strictObject({ name: z.string(), sampleSize: z.int(), accept: z.int(), reasoning: z.string() })),
})
