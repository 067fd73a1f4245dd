import type { Area } from '../../kernel/area'
import { characteristicRoutes } from './characteristics'
import { CharacteristicEntity, CharacteristicRevisionEntity } from './entities'
import { libraryRoutes } from './library'

/** What is inspected: characteristics with their revisions, in and out as a table. */
export const library: Area = {
  name: 'define/library',
  entities: [CharacteristicEntity, CharacteristicRevisionEntity],
  routes(routes, kernel) {
    libraryRoutes(routes, kernel)
    characteristicRoutes(routes)
  },
  subjects: { characteristic: { table: 'characteristic', column: 'code' } },
}
