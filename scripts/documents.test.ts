import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')

it.each(['docs/security.md', 'docs/tampering.md', 'docs/server.md', 'README.md', 'CONTRIBUTING.md'])(
  'every file that %s names is there',
  (document) => {
    const text = readFileSync(join(root, document), 'utf8')
    const named = [...text.matchAll(/`((?:core|contract|server|web|demo|e2e|bench|scripts|docs)\/[\w./-]+\.\w+)`/g)].map(([, path]) => path as string)
    expect(named.filter((path) => !existsSync(join(root, path)))).toEqual([])
  },
)
