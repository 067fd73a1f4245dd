// Builds the core for plain Node, the web pages and the server, unless nothing has changed since the last build.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { brotliCompressSync } from 'node:zlib'
import { installPackages, root, run } from './setup.mjs'

const stampFile = join(root, '.cache/build')
const sources = [
  'core/src',
  'core/vite.config.ts',
  'contract/src',
  'server/src',
  'server/vite.config.ts',
  'web/src',
  'web/public',
  'web/index.html',
  'web/vite.config.ts',
  'web/symbolFont.ts',
  'demo/src',
  'package-lock.json',
]

function filesIn(path) {
  const full = join(root, path)
  if (!existsSync(full)) return []
  try {
    return readdirSync(full, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && !entry.name.endsWith('.test.ts'))
      .map((entry) => join(entry.parentPath, entry.name))
      .sort()
  } catch {
    return [full]
  }
}

function stamp() {
  const hash = createHash('sha256')
  for (const file of sources.flatMap(filesIn)) hash.update(file).update(readFileSync(file))
  return hash.digest('hex')
}

/** Packs what the pages fetch once and for all: better than while somebody waits. */
function pack(folder) {
  for (const name of readdirSync(folder)) {
    if (!/\.(js|css|svg)$/.test(name)) continue
    const content = readFileSync(join(folder, name))
    if (content.length > 1400) writeFileSync(join(folder, `${name}.br`), brotliCompressSync(content))
  }
}

export function build() {
  const wanted = stamp()
  const isBuilt =
    existsSync(join(root, 'core/dist/index.js')) && existsSync(join(root, 'web/dist/index.html')) && existsSync(join(root, 'server/dist/main.js'))
  if (isBuilt && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === wanted) return false
  const vite = join(root, 'node_modules/vite/bin/vite.js')
  run('node', [vite, 'build', 'core', '-c', 'core/vite.config.ts', '--logLevel', 'warn'])
  run('node', [vite, 'build', 'web', '-c', 'web/vite.config.ts', '--logLevel', 'warn'])
  pack(join(root, 'web/dist/assets'))
  run('node', [vite, 'build', 'server', '-c', 'server/vite.config.ts', '--logLevel', 'warn'])
  mkdirSync(dirname(stampFile), { recursive: true })
  writeFileSync(stampFile, wanted)
  return true
}

if (import.meta.filename === process.argv[1]) {
  installPackages()
  console.log(build() ? 'Built.' : 'Nothing has changed since the last build.')
}
