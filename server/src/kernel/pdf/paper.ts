import type { Response } from 'express'
import type { Kernel } from '../kernel'
import type { PdfPaper, Printing } from './pdfPaper'
import type { HeavyTask } from '../threads/threadPool'

/** A paper: how it is drawn, by a thread, from nothing but what is on it. */
export type Paper<Content> = HeavyTask<{ readonly content: Content; readonly printing: Printing }, Uint8Array>

/** @param name by which a thread finds it, and people are told of it */
export function paperOf<Content>(name: string, draw: (paper: PdfPaper, content: Content, printing: Printing) => void): Paper<Content> {
  return {
    name,
    // Loaded by the thread that draws: a server that begins does without what draws, a fifth of all that it would load.
    run: async ({ content, printing }) => {
      const { PdfPaper } = await import('./pdfPaper')
      const paper = new PdfPaper()
      draw(paper, content, printing)
      return paper.bytes()
    },
  }
}

/** What stands at the foot of whatever is printed now. */
async function printingNow(kernel: Kernel): Promise<Printing> {
  return { at: kernel.clock.now(), timeZone: kernel.config.timeZone, head: await kernel.chain.head() }
}

/** Answers with a paper, once all of it is drawn: what fails before has sent nothing. @param name of the file, without its ending */
export async function sendPaper<Content>(kernel: Kernel, response: Response, paper: Paper<Content>, content: Content, name: string): Promise<void> {
  const bytes = await kernel.threads.run(paper, { content, printing: await printingNow(kernel) })
  response.type('application/pdf').setHeader('Content-Disposition', `inline; filename="${name.replaceAll(/[^\w.-]/g, '_')}.pdf"`)
  response.end(bytes)
}
