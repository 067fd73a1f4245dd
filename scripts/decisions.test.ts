import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const folder = join(import.meta.dirname, '../docs/decisions')
const index = readFileSync(join(folder, 'README.md'), 'utf8')

it('every decision is on the list once, under its own title, and no other', () => {
  const listed = [...index.matchAll(/^\| \[(\d{4}) (.+)\]\((.+)\) \| .+ \|$/gm)].map(
    ([, , title, file]) => [file as string, title as string] as const,
  )
  const records = readdirSync(folder).filter((name) => /^\d{4}-/.test(name))
  expect(listed.map(([file]) => file).sort()).toEqual(records.sort())
  const other = listed.filter(([file, title]) => !readFileSync(join(folder, file), 'utf8').split('\n')[0]?.endsWith(title))
  expect(other).toEqual([])
})
