import type { Area } from '../../kernel/area'
import { correctionRoutes } from './routes'

/** A delivery that was entered wrongly is put right by adding to the ledger, with what that changes said before. */
export const corrections: Area = { name: 'run/corrections', routes: correctionRoutes }
