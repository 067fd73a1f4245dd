import type { Kernel } from './kernel'
import type { Printing } from './pdfPaper'

/** What stands at the foot of whatever is printed now. */
export async function printingNow(kernel: Kernel): Promise<Printing> {
  return { at: kernel.clock.now(), timeZone: kernel.config.timeZone, head: await kernel.chain.head() }
}
