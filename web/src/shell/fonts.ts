import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import symbols from 'virtual:symbol-font'
import { symbolRanges } from './symbolRanges'

const hex = (code: number) => code.toString(16)
const unicodeRange = symbolRanges.map(([from, to]) => `U+${hex(from)}-${hex(to)}`).join(', ')

/** The signs that the main fonts lack are fetched only by a page that shows one of them. */
export function loadFonts(): void {
  document.fonts.add(new FontFace('Nemawashi Symbols', `url(${symbols})`, { unicodeRange, display: 'swap' }))
}
