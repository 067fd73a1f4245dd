import { mount } from '@vue/test-utils'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import RichText from '../components/RichText.vue'
import { htmlOf, styled } from './richText'

describe('rich text', () => {
  it('shows strong and emphasised words, lists and steps', () => {
    expect(htmlOf('Hold **flat**, *gently*.')).toContain('<strong>flat</strong>, <em>gently</em>')
    expect(htmlOf('- one\n- two')).toMatch(/<ul>\s*<li>one<\/li>\s*<li>two<\/li>\s*<\/ul>/)
    expect(htmlOf('1. clean\n2. measure')).toMatch(/<ol>\s*<li>clean<\/li>/)
  })

  it('lets no HTML, picture or link through, whatever is typed', () => {
    const parts = [
      '<script>',
      '<img src=x onerror=alert(1)>',
      '[a](javascript:alert(1))',
      '![x](http://a/b)',
      '**',
      '*',
      '- ',
      '\n',
      'a',
      '"',
      "'",
      '&',
      '<',
    ]
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...parts), { maxLength: 12 }), (words) => {
        const shown = mount(RichText, { props: { text: words.join('') } })
        return shown.element.querySelector('script, img, a, iframe, [onerror]') === null
      }),
    )
  })

  it('keeps every word of a plain text', () => {
    const word = fc.string({ unit: fc.constantFrom(...'abcäöü0123456789.,;:°±µ'), minLength: 1, maxLength: 12 })
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 8 }), (words) => {
        // A digit with a dot at the beginning of a line is a step; the word before it keeps it text.
        const text = `say ${words.join(' ')}`
        return mount(RichText, { props: { text } }).text() === text
      }),
    )
  })
})

describe('a style given to a selection', () => {
  it.each([
    ['hold flat', 5, 9, 'strong', 'hold **flat**', 'flat'],
    ['hold **flat**', 7, 11, 'strong', 'hold flat', 'flat'],
    ['hold flat', 0, 4, 'emphasis', '*hold* flat', 'hold'],
    ['clean\nmeasure', 2, 9, 'points', '- clean\n- measure', '- clean\n- measure'],
    ['- clean\n- measure', 0, 3, 'points', 'clean\n- measure', 'clean'],
    ['first\n- clean\n- measure', 8, 20, 'steps', 'first\n1. clean\n2. measure', '1. clean\n2. measure'],
  ] as const)('%j from %d to %d, %s', (text, from, to, style, wanted, selected) => {
    const next = styled(text, from, to, style)
    expect(next.text).toBe(wanted)
    expect(next.text.slice(next.from, next.to)).toBe(selected)
  })

  it('given twice leaves the text as it was', () => {
    const text = fc.string({ unit: fc.constantFrom(...'ab \n'), maxLength: 30 })
    fc.assert(
      fc.property(text, fc.nat(30), fc.nat(30), fc.constantFrom('strong', 'emphasis', 'points', 'steps'), (text, one, other, style) => {
        const [from, to] = [Math.min(one, other, text.length), Math.min(Math.max(one, other), text.length)]
        const once = styled(text, from, to, style)
        return styled(once.text, once.from, once.to, style).text === text
      }),
      { numRuns: 1000 },
    )
  })
})
