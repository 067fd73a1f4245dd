import PDFDocument from 'pdfkit'
import type { SignedHead } from '../audit/chainHead'
import { fontFile } from './fontFiles'
import { inks } from './inks'
import { drawCode, type CodeRoom } from './pdfCode'
import { momentIn } from '../database/plantTime'

const fontFiles = {
  words: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
  strong: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
  mono: '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff',
  wordsExtra: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff',
  fallback: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
} as const
type Font = 'words' | 'strong' | 'mono'

/** When something is printed, in whose time, and how far the audit chain goes then. */
export interface Printing {
  readonly at: Date
  readonly timeZone: string
  readonly head: SignedHead
}

interface GlyphSource {
  hasGlyphForCodePoint(codePoint: number): boolean
}

/** A word as it is laid out: its letters, where each stands, and how wide they are together. */
interface LaidOut {
  readonly glyphs: readonly unknown[]
  readonly positions: readonly unknown[]
  readonly advanceWidth: number
}
interface KeptFont {
  readonly font: GlyphSource
  layoutCached(word: string): LaidOut
}

/**
 * Numbers, instants and ids are laid out letter by letter. They are the words that hardly ever come twice, and the library looks each of its
 * rules for letters up in every new one: on a long paper that is most of the work. They need none; other words are laid out as ever.
 */
function layNumbersPlainly(kept: KeptFont): void {
  const usual = kept.layoutCached.bind(kept)
  const letters: LaidOut[] = []
  kept.layoutCached = (word) => {
    if (!/\d/.test(word) || /[^\x20-\x7e]/.test(word)) return usual(word)
    const [glyphs, positions]: [unknown[], unknown[]] = [[], []]
    let advanceWidth = 0
    for (let i = 0; i < word.length; i++) {
      const code = word.charCodeAt(i)
      const letter = (letters[code] ??= usual(String.fromCharCode(code)))
      glyphs.push(letter.glyphs[0])
      positions.push(letter.positions[0])
      advanceWidth += letter.advanceWidth
    }
    return { glyphs, positions, advanceWidth }
  }
}

interface Writing {
  readonly font?: Font
  readonly size?: number
  readonly color?: string
  /** Lines are broken at this width; without it the text is one line. */
  readonly width?: number
  readonly align?: 'left' | 'right'
}

/**
 * An A4 page with the shipped fonts. Characters that a font lacks (µ ⌀ ≤ Δ …) are drawn with a second shipped font instead of
 * vanishing, so text goes to the page in runs.
 */
export class PdfPaper {
  readonly doc = new PDFDocument({ size: 'A4', margins: { top: 42, bottom: 54, left: 42, right: 42 }, bufferPages: true, autoFirstPage: true })
  readonly left = 42
  readonly right = 553
  readonly bottom = 780
  y = 42
  private readonly glyphs = new Map<string, GlyphSource>()
  private readonly advances: Record<Font, Map<string, number>> = { words: new Map(), strong: new Map(), mono: new Map() }

  constructor() {
    for (const [name, file] of Object.entries(fontFiles)) {
      this.doc.registerFont(name, fontFile(file))
      this.doc.font(name)
      // The library does not say which glyphs a font has; the font that it keeps does.
      const { _font: kept } = this.doc as unknown as { _font: KeptFont }
      this.glyphs.set(name, kept.font)
      layNumbersPlainly(kept)
    }
  }

  /** A text as bars that every hand scanner reads, with its top left at x, y. */
  drawCode(text: string, x: number, y: number, room: CodeRoom): void {
    drawCode(this.doc, text, x, y, room)
  }

  /** Starts a new page when less than `height` is left. Says whether it did. */
  room(height: number): boolean {
    if (this.y + height <= this.bottom) return false
    this.doc.addPage()
    this.y = 42
    return true
  }

  /** Writes text with its top left (or top right) at x, y; gives the height used. */
  write(text: string, x: number, y: number, { font = 'words', size = 9.5, color = inks.ink, width, align = 'left' }: Writing = {}): number {
    const lines = width === undefined ? [text] : this.broken(text, font, size, width)
    lines.forEach((line, i) => {
      let at = align === 'right' ? x - this.widthOf(line, font, size) : x
      for (const run of this.runs(line, font)) {
        this.doc
          .font(run.font)
          .fontSize(size)
          .fillColor(color)
          .text(run.text, at, y + i * size * 1.35, { lineBreak: false })
        at += this.doc.widthOfString(run.text)
      }
    })
    return lines.length * size * 1.35
  }

  /** The foot of every page: what it is, when it was printed in the plant's time, how far the audit chain went then, and the page. */
  feet(title: string, { at, timeZone, head }: Printing): void {
    const { count } = this.doc.bufferedPageRange()
    for (let page = 0; page < count; page++) {
      this.doc.switchToPage(page)
      // Below the bottom margin pdfkit would start a page by itself.
      this.doc.page.margins.bottom = 0
      this.write(
        `${title} · printed ${momentIn(timeZone, at)}, all times ${timeZone} · audit chain ${head.seq}:${head.hash.slice(0, 16)}`,
        this.left,
        802,
        { size: 7.5, color: inks.soft },
      )
      this.write(`page ${page + 1} of ${count}`, this.right, 802, { size: 8, color: inks.soft, align: 'right' })
    }
  }

  /** The finished document; nothing can be written after it. */
  async bytes(): Promise<Uint8Array> {
    this.doc.end()
    // A copy with memory of its own, which can be handed over.
    return new Uint8Array(Buffer.concat((await this.doc.toArray()) as Buffer[]))
  }

  private widthOf(text: string, font: Font, size: number): number {
    return this.runs(text, font).reduce((sum, run) => sum + this.doc.font(run.font).fontSize(size).widthOfString(run.text), 0)
  }

  /** Lines no wider than `width`, broken at spaces, a longer word where it must be. Each character is measured once in the paper's life. */
  private broken(text: string, font: Font, size: number, width: number): string[] {
    const lines: string[] = []
    let line = ''
    let used = 0
    const begin = (next: string) => {
      lines.push(line)
      line = next
      used = this.advance(next, font, size)
    }
    for (const word of text.split(/\s+/)) {
      const more = line === '' ? word : ` ${word}`
      const needed = this.advance(more, font, size)
      if (used + needed <= width) {
        line += more
        used += needed
        continue
      }
      if (line !== '') begin('')
      for (const character of word) {
        const wide = this.advance(character, font, size)
        if (used + wide > width && line !== '') begin('')
        line += character
        used += wide
      }
    }
    return [...lines, line]
  }

  /** Width of text without kerning, which only ever draws letters closer. */
  private advance(text: string, font: Font, size: number): number {
    const known = this.advances[font]
    let sum = 0
    for (const character of text) {
      let wide = known.get(character)
      if (wide === undefined) known.set(character, (wide = this.widthOf(character, font, 1000) / 1000))
      sum += wide
    }
    return sum * size
  }

  private runs(text: string, font: Font): { font: string; text: string }[] {
    const runs: { font: string; text: string }[] = []
    for (const character of text) {
      const code = character.codePointAt(0) ?? 0
      const found = [font, 'wordsExtra', 'fallback'].find((name) => this.glyphs.get(name)?.hasGlyphForCodePoint(code)) ?? 'fallback'
      const last = runs.at(-1)
      if (last?.font === found) last.text += character
      else runs.push({ font: found, text: character })
    }
    return runs
  }
}
