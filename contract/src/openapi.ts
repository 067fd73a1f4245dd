import { z } from 'zod'
import { roleWords, type Endpoint } from './wire/endpoint'
import { allEndpoints } from './endpoints'
import { errorCatalogue } from './wire/errors'
import { refusalsOf } from './refusals'

type Json = Record<string, unknown>

function schemaOf(type: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _, ...schema } = z.toJSONSchema(type, { io, unrepresentable: 'any' }) as Json
  return schema
}

function parameters(endpoint: Endpoint): Json[] {
  const from = (where: 'path' | 'query', type: z.ZodType) => {
    const schema = schemaOf(type, 'input') as { properties?: Record<string, Json>; required?: string[] }
    return Object.entries(schema.properties ?? {}).map(([name, property]) => ({
      name,
      in: where,
      required: where === 'path' || (schema.required ?? []).includes(name),
      schema: property,
    }))
  }
  const key = {
    name: 'Idempotency-Key',
    in: 'header',
    required: false,
    schema: { type: 'string', maxLength: 100 },
    description: 'A request repeated under the same key gets the first answer and changes nothing.',
  }
  return [...from('path', endpoint.params), ...from('query', endpoint.query), ...(endpoint.method === 'GET' ? [] : [key])]
}

function accessWords({ access }: Endpoint): string {
  if (access === 'anyone') return 'Anybody may call it.'
  if (access === 'signedIn') return 'Anybody signed in may call it.'
  return `For: ${access.map((role) => roleWords[role]).join(', ')}.`
}

function mediaType(path: string): string {
  if (path.endsWith('.pdf')) return 'application/pdf'
  if (path.endsWith('.csv')) return 'text/csv'
  return 'application/json'
}

/** The refusals of an address by status, each with its codes and what helps. */
function refused(endpoint: Endpoint): Record<string, Json> {
  const byStatus = new Map<number, string[]>()
  for (const code of refusalsOf(endpoint)) {
    const { status } = errorCatalogue[code]
    byStatus.set(status, [...(byStatus.get(status) ?? []), code])
  }
  return Object.fromEntries(
    [...byStatus].map(([status, codes]) => [
      String(status),
      {
        description: codes.map((code) => `\`${code}\`: ${errorCatalogue[code as keyof typeof errorCatalogue].help}`).join('\n\n'),
        content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
      },
    ]),
  )
}

/** The API as an OpenAPI 3.1 document, made from the same schemas that check every request. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {}
  for (const { area, name, endpoint } of allEndpoints()) {
    const path = endpoint.path.replaceAll(/:(\w+)/g, '{$1}')
    const hasBody = endpoint.method === 'POST' || endpoint.method === 'PUT'
    paths[path] = {
      ...paths[path],
      [endpoint.method.toLowerCase()]: {
        operationId: `${area}.${name}`,
        tags: [area],
        summary: endpoint.summary,
        description: accessWords(endpoint),
        parameters: parameters(endpoint),
        ...(hasBody ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(endpoint.body, 'input') } } } } : {}),
        responses: {
          '200': { description: 'Done', content: { [mediaType(endpoint.path)]: { schema: schemaOf(endpoint.reply, 'output') } } },
          ...refused(endpoint),
        },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Nemawashi', version, description: 'Sign in with POST /api/v1/session; the answer sets a cookie that the other calls need.' },
    paths,
    components: {
      schemas: {
        Error: {
          type: 'object',
          properties: {
            error: {
              type: 'object',
              properties: {
                code: { type: 'string', enum: Object.keys(errorCatalogue) },
                message: { type: 'string' },
                help: { type: 'string' },
                facts: { type: 'object' },
              },
              required: ['code', 'message', 'help', 'facts'],
            },
          },
          required: ['error'],
        },
      },
    },
  }
}
