import { documentNames } from '../../documents/repository'
import { codesOf } from '../masters/repository'
import { documentDigits, documentKey, type CharacteristicFields, type CharacteristicLinks, type TableColumn } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'

/** The plans, answer lists and documents of this plant, by id and by what they are called in a file. */
export interface LinkNames {
  readonly plans: NamesBothWays
  readonly answerLists: NamesBothWays
  readonly documents: NamesBothWays
}

interface NamesBothWays {
  readonly nameOf: ReadonlyMap<string, string>
  /** By the lower-case name; of a document by the digits of its content, whatever it is called. */
  readonly idOf: ReadonlyMap<string, string>
}

export async function linkNames(reader: Reader): Promise<LinkNames> {
  const byCode = async (table: 'plan' | 'answer_list') => {
    const rows = await codesOf(reader, table)
    return { nameOf: new Map(rows.map(({ id, code }) => [id, code])), idOf: new Map(rows.map(({ id, code }) => [code.toLowerCase(), id])) }
  }
  const heads = await documentNames(reader)
  const documents = heads.map(({ id, name, hash }) => [id, documentKey(name, hash)] as const)
  return {
    plans: await byCode('plan'),
    answerLists: await byCode('answer_list'),
    documents: { nameOf: new Map(documents), idOf: new Map(documents.map(([id, key]) => [documentDigits(key), id])) },
  }
}

/** What a characteristic points at, by names. */
export function linksOf({ details }: CharacteristicFields, names: LinkNames): CharacteristicLinks {
  const nameOf = ({ nameOf: known }: NamesBothWays, id: string | null) => (id === null ? null : (known.get(id) ?? null))
  return {
    followUps: details.answers.map(({ followUpPlanId }) => nameOf(names.plans, followUpPlanId)),
    answerList: nameOf(names.answerLists, details.answerListId),
    documents: details.documentIds.flatMap((id) => nameOf(names.documents, id) ?? []),
  }
}

/**
 * The fields with what the names mean in this plant. What a file does not say stays as it is; what the plant does not have is told, and
 * stays as it is too. Documents that come with the file count as had, and get their ids when they are kept.
 */
export function withLinks(
  fields: CharacteristicFields,
  links: CharacteristicLinks,
  names: LinkNames,
  current: CharacteristicFields | null,
  carried: ReadonlyMap<string, string>,
): { readonly fields: CharacteristicFields; readonly missing: readonly { readonly column: TableColumn; readonly message: string }[] } {
  const missing: { column: TableColumn; message: string }[] = []
  const kept = current?.details ?? null
  const planOf = (code: string, name: string | null) => {
    const before = kept?.answers.find((answer) => answer.code === code)?.followUpPlanId ?? null
    const id = name === null ? before : (names.plans.idOf.get(name.toLowerCase()) ?? null)
    if (id === null && name !== null) missing.push({ column: 'answers', message: `There is no plan ${name}. Import it, then this file once more.` })
    return id ?? before
  }
  // Answers that became others no longer come from the list that the ones before came from.
  const codes = (answers: CharacteristicFields['details']['answers']) => answers.map(({ code }) => code).join('\n')
  const listBefore = kept !== null && codes(kept.answers) === codes(fields.details.answers) ? kept.answerListId : null
  const listOf = (name: string | null) => {
    const id = name === null ? null : (names.answerLists.idOf.get(name.toLowerCase()) ?? null)
    if (id === null && name !== null) missing.push({ column: 'answerList', message: `There is no answer list ${name}; the answers come without it.` })
    return id ?? listBefore
  }
  const answers = fields.details.answers.map((answer, i) => ({ ...answer, followUpPlanId: planOf(answer.code, links.followUps[i] ?? null) }))
  const shown = kept?.documentIds ?? []
  const shownDigits = new Set(shown.map((id) => documentDigits(names.documents.nameOf.get(id) ?? '')))
  // A document that is shown already, under whatever name, is not shown twice.
  const added = links.documents.flatMap((key) => {
    const digits = documentDigits(key)
    if (shownDigits.has(digits)) return []
    const id = names.documents.idOf.get(digits) ?? carried.get(digits)
    if (id !== undefined) return id
    missing.push({ column: 'documents', message: `${key.slice(0, key.lastIndexOf('#'))} is not here. Take the library out as JSON with documents.` })
    return []
  })
  const details = {
    ...fields.details,
    answers,
    answerListId: fields.kind === 'coded' ? listOf(links.answerList) : null,
    documentIds: [...shown, ...new Set(added)],
  }
  return { fields: { ...fields, details }, missing }
}
