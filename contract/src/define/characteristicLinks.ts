import { z } from 'zod'
import { CharacteristicDetails, CharacteristicFields, ListAnswer } from './characteristic'

/** What a characteristic points at, by what means something in another plant too: codes, and documents by their content. */
export interface CharacteristicLinks {
  /** Code of the plan that each answer asks for in addition. */
  readonly followUps: readonly (string | null)[]
  /** Code of the list that the answers came from. */
  readonly answerList: string | null
  /** Keys as `documentKey`. */
  readonly documents: readonly string[]
}

export const noLinks: CharacteristicLinks = { followUps: [], answerList: null, documents: [] }

/** Name of a document with the first 12 digits of its SHA-256: `gate.png#3f9ac04be112`. */
export function documentKey(name: string, hash: string): string {
  return `${name}#${hash.slice(0, 12)}`
}

/** The digits that a key of `documentKey` ends with: the same content has the same, whatever it is called. */
export function documentDigits(key: string): string {
  return key.slice(key.lastIndexOf('#') + 1)
}

/** Keys from a cell, where a semicolon stands between them. @throws {Error} where one does not end in # and 12 digits. */
export function documentKeysOf(text: string): string[] {
  const keys = text
    .split(/(?<=#[0-9a-f]{12})\s*;/)
    .map((key) => key.trim())
    .filter((key) => key !== '')
  const wrong = keys.find((key) => !/.#[0-9a-f]{12}$/.test(key))
  if (wrong !== undefined)
    throw new Error(`Received "${wrong.slice(0, 80)}". Documents are written like gate.png#3f9ac04be112, with a semicolon between them.`)
  return keys
}

/** A characteristic as the JSON of the library carries it. */
export const FileCharacteristic = CharacteristicFields.omit({ details: true }).extend({
  code: z.string().trim().min(1).max(40),
  details: CharacteristicDetails.omit({ answerListId: true, documentIds: true })
    .extend({
      answers: z
        .array(ListAnswer.omit({ followUpPlanId: true }).extend({ followUpPlan: z.string().max(40).nullable().default(null) }))
        .max(40)
        .default([]),
      answerList: z.string().max(40).nullable().default(null),
      documents: z.array(z.string().max(180)).max(20).default([]),
    })
    .prefault({}),
})
type FileCharacteristic = z.infer<typeof FileCharacteristic>

/** To the form of the file. */
export function fileForm(code: string, fields: CharacteristicFields, { followUps, answerList, documents }: CharacteristicLinks): FileCharacteristic {
  const { answerListId: _, documentIds: __, answers, ...details } = fields.details
  return {
    ...fields,
    code,
    details: {
      ...details,
      answers: answers.map(({ followUpPlanId: ___, ...answer }, i) => ({ ...answer, followUpPlan: followUps[i] ?? null })),
      answerList,
      documents: [...documents],
    },
  }
}

/** From the form of the file: the fields without their links, and the links. */
export function fromFileForm({ code, details, ...fields }: FileCharacteristic): {
  code: string
  fields: CharacteristicFields
  links: CharacteristicLinks
} {
  const { answers, answerList, documents, ...rest } = details
  return {
    code,
    fields: {
      ...fields,
      details: {
        ...rest,
        answers: answers.map(({ followUpPlan: _, ...answer }) => ({ ...answer, followUpPlanId: null })),
        answerListId: null,
        documentIds: [],
      },
    },
    links: { followUps: answers.map(({ followUpPlan }) => followUpPlan), answerList, documents },
  }
}
