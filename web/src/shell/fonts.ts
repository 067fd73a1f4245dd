import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import symbols from 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf?url'

/** What the main fonts lack: Greek letters, operators and the marks. Fetched only by a page that shows one of them. */
const unicodeRange = 'U+00B5, U+0370-03FF, U+2190-21FF, U+2200-22FF, U+2300-23FF, U+25A0-25FF, U+2700-27BF'

export function loadFonts(): void {
  document.fonts.add(new FontFace('Nemawashi Symbols', `url(${symbols})`, { unicodeRange, display: 'swap' }))
}
