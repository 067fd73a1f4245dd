import { definitions } from './define'
import { library } from './library'
import { planExchange } from './planFile'

/** The addresses of everything that is defined: things with revisions, the lists beside them, the library as a file, plans as files. */
export const define = { ...definitions, ...library, ...planExchange }
