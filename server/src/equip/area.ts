import type { Area } from '../kernel/area'
import { GaugeEntity } from './entities'
import { openInstrumentDoor } from './instrumentDoor'
import { InstrumentEntity, SentValueEntity } from './instrumentEntities'
import { gaugesFound } from './repository'
import { equipRoutes } from './routes'

/** What is measured with: the register of gauges, their calibration, and what each of them measured. */
export const equip: Area = {
  name: 'equip',
  entities: [GaugeEntity, InstrumentEntity, SentValueEntity],
  routes: equipRoutes,
  openDoor: openInstrumentDoor,
  subjects: { gauge: { table: 'gauge', column: 'code' } },
  searchProviders: [gaugesFound],
}
