import { endpoints } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'

/** A main view: its name, who looks at it, where it is in the demo plant, and what shows that it is there. */
export interface MainView {
  readonly name: string
  readonly who: string
  readonly path: (api: ApiClient) => Promise<string>
  readonly ready: string
  /** Also used on a tablet held upright, 800 × 1280. */
  readonly isForTablet?: boolean
}

const { define, run, record, trace } = endpoints
const at = (path: string) => async () => path

async function inspection(api: ApiClient, query: object): Promise<string> {
  const { rows } = await api.call(record.listInspections, { query: query as never })
  return rows[0]?.id ?? ''
}
async function first(api: ApiClient, list: typeof define.families.list, q: string): Promise<string> {
  const { rows } = await api.call(list, { query: { q } })
  return (rows as { id: string }[])[0]?.id ?? ''
}

export const mainViews: readonly MainView[] = [
  { name: 'sign-in', who: '', path: at('/sign-in'), ready: '[data-person]' },
  { name: 'today', who: 'ilse', path: at('/today'), ready: '.entry', isForTablet: true },
  {
    name: 'define-characteristic',
    who: 'ilse',
    path: async (api) => `/define/characteristics/${await first(api, define.listCharacteristics as never, 'C-FORCE')}`,
    ready: '.live svg',
  },
  { name: 'define-plan', who: 'ilse', path: async (api) => `/define/plans/${await first(api, define.listPlans as never, 'RP-31')}`, ready: 'canvas' },
  {
    name: 'define-part',
    who: 'ilse',
    path: async (api) => `/define/parts/${await first(api, define.parts.list as never, 'BS-7075-16')}`,
    ready: 'form li',
  },
  { name: 'attach', who: 'ilse', path: async (api) => `/attach/${await first(api, define.parts.list as never, 'BS-7075-16')}`, ready: '.tag' },
  {
    name: 'run',
    who: 'dario',
    path: async (api) =>
      `/run/${(await api.call(run.listDeliveries, { query: { q: 'BS-7075-16', sort: 'openInspections', dir: 'desc' } })).rows[0]?.id}`,
    ready: '.lot .bar',
  },
  { name: 'run-new', who: 'dario', path: at('/run/new'), ready: '[data-field=supplierId]' },
  { name: 'record-queue', who: 'rosa', path: at('/record'), ready: 'tbody tr' },
  {
    name: 'record',
    who: 'rosa',
    path: async (api) => `/record/${await inspection(api, { state: 'started', q: 'Pins' })}`,
    ready: '.bench .grid td',
    isForTablet: true,
  },
  {
    name: 'contain',
    who: 'anja',
    path: async (api) => `/contain/${await inspection(api, { state: 'finished', sort: 'verdict', dir: 'desc' })}`,
    ready: '[data-test=decide]',
  },
  {
    name: 'trace',
    who: 'jun',
    path: async (api) => `/trace/${(await api.call(trace.listLots, { query: { q: 'L-000059' } })).rows[0]?.id}`,
    ready: '.spine .seal',
  },
  {
    name: 'people',
    who: 'mirela',
    path: async (api) => `/people/${(await api.call(endpoints.people.listPeople, { query: { q: 'Rosa' } })).rows[0]?.id}`,
    ready: 'form fieldset',
  },
  { name: 'audit', who: 'jun', path: at('/people/audit'), ready: 'tbody tr' },
]
