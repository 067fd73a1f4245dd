import type { BenchEvents, Person } from '@nemawashi/contract'
import type { Request, Response } from 'express'
import { gaugeOf, topicOf } from '../../equip/instruments'
import { gaugesOf } from '../../inspections/gaugeRepository'
import { inspectionRows } from '../../inspections/rows'
import { ServerError } from '../../kernel/base/serverError'
import { eventStream } from '../../kernel/http/eventStream'
import type { Kernel } from '../../kernel/kernel'
import type { Reader } from '../../kernel/work/database'

interface Asker {
  readonly person: Person | null
  readonly request: Request
  readonly response: Response
}

/**
 * Tells a bench what the instruments of its inspection send, until its page goes away. It takes them from the bench that listened before.
 * @throws {ServerError} `not_found`.
 */
export async function followSent(kernel: Kernel, reader: Reader, inspectionId: string, { person, request, response }: Asker): Promise<void> {
  const inspection = await inspectionRows.find(reader, { id: inspectionId })
  if (!inspection) throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  const chosen = [...new Set((await gaugesOf(reader, inspectionId)).map(({ gaugeId }) => gaugeId))]
  const { send, end } = eventStream(request, response, kernel.identity)
  const facts = { inspectionId, inspectionCode: inspection.code, personId: person?.id ?? '', byName: person?.name ?? '' }
  const tell = (event: string, data: unknown) => {
    if (event !== 'replaced') return send(event, data)
    const { topic = '', byName = '', inspectionCode = '' } = data as Readonly<Record<string, string>>
    send('replaced', { gaugeId: gaugeOf(topic), byName, inspectionCode } satisfies BenchEvents['replaced'])
  }
  const page = kernel.openPages.open(chosen.map(topicOf), facts, tell, end)
  for (const gaugeId of chosen) {
    const heardAt = kernel.openPages.lastHeard(topicOf(gaugeId))
    const agoMs = heardAt === null ? null : kernel.clock.now().getTime() - Date.parse(heardAt)
    send('alive', { gaugeId, agoMs } satisfies BenchEvents['alive'])
  }
  await new Promise<void>((resolve) => response.on('close', resolve))
  page.leave()
}
