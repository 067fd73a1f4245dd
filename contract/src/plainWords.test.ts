import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { allEndpoints, placeWords } from './index'

const said = (schema: z.ZodType, value: unknown) => schema.safeParse(value).error?.issues.map((issue) => issue.message) ?? []

describe('a refusal of a schema', () => {
  it('is in words that a person can act on', () => {
    expect(said(z.uuid(), 'x')).toEqual(['choose one from the list'])
    expect(said(z.string().min(1), '')).toEqual(['fill this in'])
    expect(said(z.string().min(3), 'a')).toEqual(['write at least 3 characters'])
    expect(said(z.string(), undefined)).toEqual(['fill this in'])
    expect(said(z.number(), 'a')).toEqual(['give a number here'])
    expect(said(z.array(z.string()).max(2), ['a', 'b', 'c'])).toEqual(['give at most 2'])
    expect(said(z.enum(['a', 'b']), 'c')).toEqual(['choose one of: a, b'])
  })

  it('names its place in words', () => {
    expect(placeWords(['lines', 0, 'quantity'])).toBe('line 1, quantity')
    expect(placeWords(['lines', 2, 'containers', 0, 'label'])).toBe('line 3, container 1, label')
    expect(placeWords(['supplierId'])).toBe('supplier')
  })

  it('never speaks the language of the checker, whatever an endpoint is sent', () => {
    const odd = fc.oneof(
      fc.constant(undefined),
      fc.constant(null),
      fc.string({ maxLength: 3 }),
      fc.integer(),
      fc.boolean(),
      fc.constant([]),
      fc.constant({}),
    )
    const bodies = allEndpoints().filter(({ endpoint }) => endpoint.body instanceof z.ZodObject && Object.keys(endpoint.body.shape).length > 0)
    for (const { endpoint } of bodies) {
      const names = Object.keys((endpoint.body as z.ZodObject).shape)
      fc.assert(
        fc.property(fc.record(Object.fromEntries(names.map((name) => [name, odd]))), (body) => {
          for (const message of said(endpoint.body, body)) expect(message).not.toMatch(/invalid|expected|received|uuid|regex|pattern|>=|<=/i)
        }),
        { numRuns: 20 },
      )
    }
  })
})
