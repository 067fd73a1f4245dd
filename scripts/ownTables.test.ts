import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')

/** An area is the folder of its tables; what stands on the ledger shares it. */
const areaOf = (folder: string) => (folder.startsWith('server/src/stock') ? 'server/src/stock' : folder)

/** Where an entity is named outside the area where it lies: as what may be written there. */
function strangers(files: Readonly<Record<string, string>>): string[] {
  const home = new Map<string, string>()
  for (const [file, code] of Object.entries(files))
    for (const [, entity = ''] of code.matchAll(/export const (\w+Entity)\b/g)) home.set(entity, areaOf(dirname(file)))
  return Object.entries(files).flatMap(([file, code]) =>
    [...new Set(code.replaceAll(/\/\*[^]*?\*\/|\/\/.*/g, '').match(/\b\w+Entity\b/g))]
      .filter((entity) => home.has(entity) && home.get(entity) !== areaOf(dirname(file)))
      .map((entity) => `${file}: ${entity}`),
  )
}

it('a table is written in its own area; others read its rows, and ask for what is to be written', () => {
  const files = execFileSync('git', ['ls-files', 'server/src/*.ts'], { cwd: root, encoding: 'utf8' })
    .split('\n')
    .filter((file) => file !== '' && !/\.test\.ts$|\/testing\/|\/migrations\//.test(file))
  expect(files.length).toBeGreaterThan(200)
  expect(strangers(Object.fromEntries(files.map((file) => [file, readFileSync(join(root, file), 'utf8')])))).toEqual([])
})

it('one that is written from elsewhere is named, and one in a comment is not', () => {
  const found = strangers({
    'server/src/define/masters/entities.ts': 'export const PartEntity = 1',
    'server/src/define/masters/parts.ts': 'insert(PartEntity)',
    'server/src/run/receiving/receive.ts': '/** A PartEntity is not written here. */ update(PartEntity)',
    'server/src/run/receiving/preview.ts': '// PartEntity\nload()',
  })
  expect(found).toEqual(['server/src/run/receiving/receive.ts: PartEntity'])
})
