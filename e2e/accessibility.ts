import axe from 'axe-core'
import type { Hand } from './hand'

/** What axe objects to, beyond the rules of WCAG also how headings, tables and lists are made. */
export async function objections(hand: Hand): Promise<string[]> {
  await hand.page.evaluate(axe.source)
  const { violations } = await hand.page.evaluate(() =>
    (window as unknown as { axe: typeof axe }).axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
      rules: { 'heading-order': { enabled: true }, 'empty-table-header': { enabled: true }, 'label-content-name-mismatch': { enabled: true } },
    }),
  )
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .slice(0, 3)
        .map(({ html }) => html.slice(0, 160))
        .join(' | ')}`,
  )
}
