import { recordersOf, type ReadingInput } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { personRows } from '../../people/rows'

/**
 * Whoever types for somebody says for whom: a person who works at the bench and is still here.
 * @throws {ServerError} `reference_unknown` with the fact `readingId`.
 */
export async function requireInspectors(work: Work, inputs: readonly Pick<ReadingInput, 'id' | 'inspectedById'>[]): Promise<void> {
  const known = new Set<string>()
  for (const { id, inspectedById } of inputs) {
    if (inspectedById == null || inspectedById === work.personId || known.has(inspectedById)) continue
    const person = await personRows.find(work.manager, { id: inspectedById })
    const mayInspect = person?.isActive === true && recordersOf(null).some((role) => person.roles.includes(role))
    if (!mayInspect)
      throw new ServerError('reference_unknown', person ? `${person.name} does not work at the bench.` : `There is no person ${inspectedById}.`, {
        readingId: id,
        field: 'inspectedById',
        received: inspectedById,
      })
    known.add(inspectedById)
  }
}
