import type { z } from 'zod'
import type { Endpoint } from './endpoint'

type IsEmpty<T> = T extends Record<string, never> ? true : false

/** What a caller gives for an endpoint; parts that are empty can be left out. */
export type CallOf<E extends Endpoint> = (IsEmpty<z.input<E['params']>> extends true ? { params?: undefined } : { params: z.input<E['params']> }) & {
  query?: z.input<E['query']>
} & (IsEmpty<z.input<E['body']>> extends true ? { body?: undefined } : { body: z.input<E['body']> })

export type ReplyOf<E extends Endpoint> = z.output<E['reply']>

/** The address of an endpoint with its parameters filled in; query values that are undefined are left out. */
export function addressOf(endpoint: Endpoint, call: { params?: unknown; query?: unknown }, ending = ''): string {
  const params = (call.params ?? {}) as Record<string, string>
  const path = endpoint.path.replaceAll(/:(\w+)/g, (_match, name: string) => encodeURIComponent(params[name] ?? ''))
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries((call.query ?? {}) as Record<string, unknown>)) {
    if (value !== undefined && value !== '') query.set(name, String(value))
  }
  const text = query.toString()
  return `${path}${ending}${text === '' ? '' : `?${text}`}`
}
