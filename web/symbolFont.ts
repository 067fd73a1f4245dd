import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import subsetFont from 'subset-font'
import type { Plugin } from 'vite'
import { symbolRanges } from './src/shell/symbolRanges'

const name = 'virtual:symbol-font'

/** The address of a font that has the signs of `symbolRanges` and nothing else: 48 kB in the place of 757. Made at the build. */
export function symbolFont(): Plugin {
  const make = async () => {
    const whole = readFileSync(createRequire(import.meta.url).resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf'))
    const signs = symbolRanges.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)))
    return subsetFont(whole, signs.join(''), { targetFormat: 'woff2' })
  }
  let isBuild = false
  return {
    name: 'symbol-font',
    configResolved: ({ command }) => void (isBuild = command === 'build'),
    resolveId: (id) => (id === name ? `\0${name}` : null),
    async load(id) {
      if (id !== `\0${name}`) return null
      const source = await make()
      if (!isBuild) return `export default 'data:font/woff2;base64,${source.toString('base64')}'`
      const file = this.emitFile({ type: 'asset', name: 'symbols.woff2', source })
      return `export default import.meta.ROLLUP_FILE_URL_${file}`
    },
  }
}
