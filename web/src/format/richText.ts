import MarkdownIt from 'markdown-it'

/** Markdown without HTML, pictures and links: what is written is shown, nothing is fetched and nothing leads away. */
const markdown = new MarkdownIt('zero', { html: false, breaks: true }).enable(['emphasis', 'list', 'newline', 'heading', 'escape'])

/** Text with **strong**, *emphasised*, lists and headings as HTML that is safe to show. */
export function htmlOf(text: string): string {
  return markdown.render(text)
}

export type Style = 'strong' | 'emphasis' | 'points' | 'steps'
const marks = { strong: '**', emphasis: '*' } as const

/** Gives a style to the selected stretch of a text, or takes it away; lists work on whole lines. Returns the text and the new selection. */
export function styled(text: string, from: number, to: number, style: Style): { text: string; from: number; to: number } {
  if (style === 'strong' || style === 'emphasis') {
    const mark = marks[style]
    const inner = text.slice(from, to)
    const isStyled = text.slice(from - mark.length, from) === mark && text.slice(to, to + mark.length) === mark
    if (isStyled)
      return { text: text.slice(0, from - mark.length) + inner + text.slice(to + mark.length), from: from - mark.length, to: to - mark.length }
    return { text: text.slice(0, from) + mark + inner + mark + text.slice(to), from: from + mark.length, to: to + mark.length }
  }
  // A search from before the beginning would look at the first letter all the same.
  const start = from === 0 ? 0 : text.lastIndexOf('\n', from - 1) + 1
  const next = text.indexOf('\n', to)
  const end = next < 0 ? text.length : next
  const lines = text.slice(start, end).split('\n')
  const head = style === 'points' ? /^- / : /^\d+\. /
  const isListed = lines.every((line) => head.test(line))
  const bare = lines.map((line) => line.replace(/^(- |\d+\. )/, ''))
  const changed = isListed ? bare : bare.map((line, i) => (style === 'points' ? `- ${line}` : `${i + 1}. ${line}`))
  const block = changed.join('\n')
  return { text: text.slice(0, start) + block + text.slice(end), from: start, to: start + block.length }
}
