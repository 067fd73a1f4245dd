import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'

/** The invented plant as an earlier release left it, before findings kept facts: for what has to be taken along. Gives the file. */
export function unpackOlderPlant(folder: string): string {
  const file = join(folder, 'nemawashi.sqlite')
  writeFileSync(file, brotliDecompressSync(readFileSync(join(import.meta.dirname, 'olderPlant.sqlite.br'))))
  return file
}
