import { attach } from './attach/attach'
import { contain } from './contain/contain'
import { define } from './define/addresses'
import type { Endpoint } from './wire/endpoint'
import { equip } from './equip/equip'
import { people } from './people/people'
import { record } from './record/record'
import { run } from './run/run'
import { trace } from './trace/trace'

/** Every address of the API, in the order of the rail. */
export const endpoints = { people, define, attach, run, record, contain, trace, equip }

function isEndpoint(value: object): value is Endpoint {
  return 'path' in value && 'method' in value
}

/** All endpoints in one flat list, each with the area it belongs to. */
export function allEndpoints(): { area: string; name: string; endpoint: Endpoint }[] {
  const found: { area: string; name: string; endpoint: Endpoint }[] = []
  const walk = (area: string, name: string, value: object) => {
    if (isEndpoint(value)) found.push({ area, name, endpoint: value })
    else for (const [key, inner] of Object.entries(value)) walk(area, name ? `${name}.${key}` : key, inner as object)
  }
  for (const [area, group] of Object.entries(endpoints)) walk(area, '', group)
  return found
}
