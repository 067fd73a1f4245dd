import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { Failure } from '../shell/api'
import EmptyState from './EmptyState.vue'
import ErrorNote from './ErrorNote.vue'
import MarkSign from './MarkSign.vue'
import QuantityBar from './QuantityBar.vue'
import ReasoningLine from './ReasoningLine.vue'
import SealStamp from './SealStamp.vue'
import ToleranceStrip from './ToleranceStrip.vue'

const limits = { nominal: '0.3', lower: '0.25', upper: '0.35' }

describe('a mark', () => {
  it('is a shape of its own for each meaning, and says it to those who do not see it', () => {
    const shapes = (['conforming', 'marginal', 'nonconforming', 'notJudged'] as const).map((mark) => {
      const sign = mount(MarkSign, { props: { mark } })
      return [sign.find('circle').exists() ? 'circle' : sign.find('path').attributes('d'), sign.attributes('aria-label')]
    })
    expect(new Set(shapes.map(([shape]) => shape)).size).toBe(4)
    expect(shapes.map(([, words]) => words)).toEqual(['conforming', 'marginal', 'nonconforming', 'not judged'])
  })
})

describe('a tolerance strip', () => {
  const x = (strip: ReturnType<typeof mount>, selector: string) => strip.findAll(selector).map((line) => Number(line.attributes('x1')))

  it('draws both limits as edges, the nominal between them, and the zone from edge to edge', () => {
    const strip = mount(ToleranceStrip, { props: { limits } })
    const [lower = NaN, upper = NaN] = x(strip, '.edge')
    const [nominal = NaN] = x(strip, '.nominal')
    expect(lower).toBeLessThan(nominal)
    expect(nominal).toBeLessThan(upper)
    expect(Number(strip.find('rect').attributes('x'))).toBeCloseTo(lower, 6)
    expect(Number(strip.find('rect').attributes('width'))).toBeCloseTo(upper - lower, 6)
  })

  it('has one edge and fades out on the open side when the tolerance is one-sided', () => {
    const atLeast = mount(ToleranceStrip, { props: { limits: { nominal: null, lower: '145', upper: null } } })
    expect(atLeast.findAll('.edge')).toHaveLength(1)
    expect(atLeast.find('rect').attributes('fill')).toMatch(/^url\(#.*high\)$/)
    const atMost = mount(ToleranceStrip, { props: { limits: { nominal: null, lower: null, upper: '0.8' } } })
    expect(atMost.find('rect').attributes('fill')).toMatch(/low\)$/)
  })

  it('shows each reading by the shape of its mark, and keeps one far outside at its end', () => {
    const readings = [
      { value: '0.31', mark: 'conforming' as const },
      { value: '99', mark: 'nonconforming' as const },
      { value: '0.34', mark: 'marginal' as const },
    ]
    const strip = mount(ToleranceStrip, { props: { limits, readings, width: 200 } })
    expect(strip.findAll('circle.conforming')).toHaveLength(1)
    expect(strip.findAll('path.marginal')).toHaveLength(1)
    const end = /^M([\d.]+)/.exec(strip.find('path.nonconforming').attributes('d') ?? '')
    expect(Number(end?.[1])).toBeLessThanOrEqual(200)
    expect(Number(strip.find('circle.conforming').attributes('cx'))).toBeLessThan(200)
    expect(strip.findAll('.far')).toHaveLength(1)
    const big = mount(ToleranceStrip, { props: { limits, readings: [{ value: '0.1', mark: 'nonconforming' as const }], height: 28 } })
    expect(big.find('.how-far').text()).toBe('0.15 under')
    expect(big.attributes('aria-label')).toContain('reading 0.1, 0.15 under')
  })

  it('writes its numbers below, and leaves the nominal out where it would run into a limit', () => {
    const written = (shown: typeof limits) =>
      mount(ToleranceStrip, { props: { limits: shown, width: 300, hasNumbers: true } })
        .findAll('text')
        .map((text) => text.text())
    expect(written(limits)).toEqual(['0.25', '0.3', '0.35'])
    expect(written({ nominal: '0.25', lower: '0.25', upper: '0.35' })).toEqual(['0.25', '0.35'])
  })

  it('is told in words for those who do not see it', () => {
    expect(mount(ToleranceStrip, { props: { limits, readings: [{ value: '0.31', mark: 'conforming' }] } }).attributes('aria-label')).toBe(
      'tolerance from 0.25 to 0.35, reading 0.31',
    )
  })
})

describe('a quantity bar', () => {
  const balances = [
    { standing: 'quarantined' as const, quantity: 240 },
    { standing: 'released' as const, quantity: 800 },
    { standing: 'released' as const, quantity: 160 },
  ]

  it('adds the spots of a standing up, keeps one order, and says the whole beside it', () => {
    const bar = mount(QuantityBar, { props: { balances, unit: 'bar', arrived: 1200 } })
    expect(bar.find('.bar').attributes('aria-label')).toBe('960 released, 240 quarantined; together 1\u00a0200 bars')
    expect(bar.findAll('.bar > span').map((part) => (part.element as HTMLElement).style.flexGrow)).toEqual(['960', '240'])
    expect(bar.find('.together').text()).toBe('together 1\u00a0200 bars, as received')
  })

  it('says so when it does not add up to what arrived', () => {
    expect(
      mount(QuantityBar, { props: { balances, unit: 'bar', arrived: 1300 } })
        .find('.together')
        .text(),
    ).toContain('received were 1\u00a0300')
  })
})

describe('a verdict', () => {
  it('carries its arithmetic and its mark', () => {
    const line = mount(ReasoningLine, {
      props: { verdict: 'notAcceptable', reasoning: '32 inspected, 2 nonconforming, Ac 1 → not acceptable' },
    })
    expect(line.text()).toBe('32 inspected, 2 nonconforming, Ac 1 → not acceptable')
    expect(line.find('.mark').attributes('aria-label')).toBe('nonconforming')
    expect(
      mount(ReasoningLine, { props: { verdict: 'notJudged', reasoning: '' } })
        .find('.mark')
        .attributes('aria-label'),
    ).toBe('not judged')
  })

  it('that was signed shows who, what it means and when', () => {
    const seal = mount(SealStamp, { props: { initials: 'AM', meaning: 'returned', signedAt: '2025-11-08T14:31:00Z' } })
    expect(seal.attributes('aria-label')).toBe('sealed by AM: returned, 8 Nov 2025')
    expect(seal.text()).toContain('AM')
  })
})

describe('what went wrong, and what is empty', () => {
  it('says what happened and what helps, to screen readers at once', () => {
    const note = mount(ErrorNote, { props: { failure: new Failure('gate_closed', 'L-1 may not be put away.', 'Decide first.') } })
    expect(note.attributes('role')).toBe('alert')
    expect(note.text()).toBe('L-1 may not be put away. Decide first.')
    expect(mount(ErrorNote, { props: { failure: null } }).text()).toBe('')
  })

  it('says what belongs there and offers what fills it', () => {
    const empty = mount(EmptyState, {
      props: { title: 'Deliveries', text: 'Nothing has arrived yet.' },
      slots: { default: '<button>Enter one</button>' },
    })
    expect(empty.text()).toMatch(/Deliveries\s*Nothing has arrived yet\.\s*Enter one/)
  })
})
