import { z } from 'zod'
import { Quantity, words } from './endpoint'

/** Without a label a container gets the plant's next number. */
export const ContainerInput = z.strictObject({ label: words(60).nullable(), quantity: Quantity })

/** How a load came, as it is written down at the dock; empty where nothing was. */
const said = z.string().trim().max(60, 'at most 60 characters').default('')
export const LoadFacts = z.strictObject({ carrier: said, vehicle: said, driver: said, seal: said, loadNumber: said })
export type LoadFacts = z.output<typeof LoadFacts>
