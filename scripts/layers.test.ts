import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')
let tree: string
beforeEach(() => {
  tree = mkdtempSync(join(tmpdir(), 'nemawashi-layers-'))
  for (const file of ['.dependency-cruiser.cjs', 'tsconfig.base.json']) cpSync(join(root, file), join(tree, file))
  for (const name of ['core', 'contract', 'server', 'web', 'demo']) {
    write(`${name}/src/index.ts`, `export const ${name} = 1\n`)
    write(`${name}/package.json`, JSON.stringify({ name: `@nemawashi/${name}`, type: 'module', exports: { '.': './src/index.ts' } }))
  }
  mkdirSync(join(tree, 'node_modules/@nemawashi'), { recursive: true })
  for (const name of ['core', 'contract', 'server', 'web', 'demo']) symlinkSync(join(tree, name), join(tree, 'node_modules/@nemawashi', name))
})
afterEach(() => rmSync(tree, { recursive: true, force: true }))

function write(path: string, text: string): void {
  mkdirSync(dirname(join(tree, path)), { recursive: true })
  writeFileSync(join(tree, path), text)
}
function check(): { isFine: boolean; output: string } {
  const { status, stdout, stderr } = spawnSync(
    join(root, 'node_modules/.bin/depcruise'),
    ['core', 'contract', 'server', 'web', 'demo', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'],
    { cwd: tree, encoding: 'utf8' },
  )
  return { isFine: status === 0, output: stdout + stderr }
}
const uses = (name: string) => `import { ${name} } from '@nemawashi/${name}'\nexport const used = ${name}\n`

describe('the check of the layers', () => {
  it('lets arrows go down', () => {
    write('contract/src/a.ts', uses('core'))
    write('server/src/a.ts', uses('contract'))
    write('web/src/a.ts', uses('contract') + uses('core').replaceAll('used', 'alsoUsed'))
    write('demo/src/a.ts', uses('server'))
    expect(check()).toMatchObject({ isFine: true })
  }, 120_000)

  it('names every arrow that goes up or across', () => {
    write('core/src/inner.ts', 'export const inner = 1\n')
    write('server/src/define/plans/a.ts', 'export const define = 1\n')
    write('web/src/record/bench/a.ts', 'export const bench = 1\n')
    const arrows = [
      ['core/src/up.ts', uses('contract'), 'core-stands-alone'],
      ['core/src/files.ts', `import { readFileSync } from 'node:fs'\nexport const used = readFileSync\n`, 'core-stands-alone'],
      ['contract/src/up.ts', uses('server'), 'contract-on-core-only'],
      ['web/src/server.ts', uses('server'), 'nothing-imports-server'],
      ['web/src/window.ts', `import { inner } from '../../core/src/inner'\nexport const used = inner\n`, 'core-by-its-door'],
      ['server/src/up.ts', uses('demo'), 'server-not-on-demo'],
      ['server/src/across.ts', uses('web'), 'nothing-imports-web'],
      [
        'server/src/kernel/up.ts',
        `import { define } from '../define/plans/a'\nexport const used = define\n`,
        'server/kernel-uses-only-what-is-below',
      ],
      [
        'server/src/define/library/up.ts',
        `import { define } from '../plans/a'\nexport const used = define\n`,
        'server/define/library-uses-only-what-is-below',
      ],
      ['server/src/somewhere/a.ts', uses('contract'), 'server-has-only-its-floors'],
      ['server/src/define/somewhere/a.ts', uses('contract'), 'server-has-only-its-floors'],
      ['web/src/run/across.ts', `import { bench } from '../record/bench/a'\nexport const used = bench\n`, 'web/run-knows-no-other-area'],
    ] as const
    for (const [path, text] of arrows) write(path, text)
    const { isFine, output } = check()
    expect(isFine).toBe(false)
    const said = output.split('\n')
    expect(arrows.filter(([path, , rule]) => !said.some((line) => line.includes(`${rule}: ${path}`)))).toEqual([])
  }, 120_000)
})
