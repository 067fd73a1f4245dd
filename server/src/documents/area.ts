import type { Area } from '../kernel/area'
import { DocumentEntity } from './entities'
import { documentRoutes } from './routes'

/** Pictures, PDFs and models that others point at. */
export const documents: Area = {
  name: 'documents',
  entities: [DocumentEntity],
  routes: documentRoutes,
  subjects: {
    document: { table: 'document', column: 'name' },
  },
}
