import codes from 'bwip-js/node'

/** How wide and high a code may be; a module is a bar of the least width. In points. */
export interface CodeRoom {
  readonly width: number
  readonly height: number
  readonly module?: number
}

/**
 * Draws a text as Code 128 (ISO/IEC 15417), which every hand scanner reads, with the quiet zone of ten modules left and right that the
 * standard asks for. The modules are as wide as the width allows, at most `module` points.
 */
export function drawCode(doc: PDFKit.PDFDocument, text: string, x: number, y: number, { width, height, module = 1.1 }: CodeRoom): void {
  const [code] = codes.raw({ bcid: 'code128', text }) as { sbs: number[] }[]
  const widths = code?.sbs ?? []
  const modules = widths.reduce((sum, width) => sum + width, 0) + 20
  const size = Math.min(module, width / modules)
  let at = x + 10 * size
  doc.fillColor('#000000')
  widths.forEach((width, i) => {
    if (i % 2 === 0) doc.rect(at, y, width * size, height).fill()
    at += width * size
  })
}
