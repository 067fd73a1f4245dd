import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'

/** The invented plant as an earlier release left it, before findings kept facts: for what has to be taken along. Gives the file. */
export function unpackOlderPlant(folder: string): string {
  const file = join(folder, 'nemawashi.sqlite')
  writeFileSync(file, brotliDecompressSync(readFileSync(join(import.meta.dirname, 'olderPlant.sqlite.br'))))
  return file
}

/**
 * As the earlier release told it: labels that stood on several containers have the number of their lot before them since, and where a lot
 * came from was always a delivery. Papers were not kept then.
 */
export function asBefore<T>(value: T): T {
  const text = JSON.stringify(value)
    .replaceAll(/L-\d{6}\/(?=K-)/g, '')
    .replaceAll('"originKind":"delivery",', '')
    .replaceAll('"kind":"skippedByRule"', '"kind":"passedBy"')
    .replaceAll('"documentId":null,', '')
    .replaceAll(/"finer":null,|,"finer":null/g, '')
    .replaceAll(/"(placePurpose|sublot|sublotCode)":("[^"]*"|null),?/g, '')
    .replaceAll(/"(fromSublot|toSublot)":"",?/g, '')
    .replaceAll(',}', '}')
    .replaceAll('"originId"', '"deliveryId"')
    .replaceAll('"originCode"', '"deliveryCode"')
  return JSON.parse(text) as T
}
