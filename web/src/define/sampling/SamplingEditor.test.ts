import type { SamplingRule } from '@nemawashi/core'
import { mount } from '@vue/test-utils'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { weighRule } from '../../workers/weighRule'
import SamplingEditor from './SamplingEditor.vue'

type Heard = (event: { data: object }) => void
/** A worker that answers before it is asked twice. */
class QuickWorker {
  private hear: Heard = () => undefined
  addEventListener(name: string, hear: Heard): void {
    if (name === 'message') this.hear = hear
  }
  postMessage({ id, sampling, lotSize, counted }: { id: number; sampling: SamplingRule; lotSize: number; counted: 'nonconforming' }): void {
    try {
      this.hear({ data: { id, outcome: { value: weighRule(sampling, lotSize, counted) } } })
    } catch (error) {
      this.hear({ data: { id, outcome: { problem: (error as Error).message } } })
    }
  }
  terminate(): void {}
}
beforeAll(() => vi.stubGlobal('Worker', QuickWorker))
afterAll(() => vi.unstubAllGlobals())

const stubs = {
  'v-select': { props: ['modelValue', 'items', 'label'], emits: ['update:modelValue'], template: '<label>{{ label }}</label>' },
  'v-number-input': { props: ['modelValue', 'label'], emits: ['update:modelValue'], template: '<label>{{ label }}</label>' },
  RiskChart: true,
  'router-link': true,
}
const show = (rule: SamplingRule) => mount(SamplingEditor, { props: { modelValue: rule, isFixed: false, error: null }, global: { stubs } })
const labels = (editor: ReturnType<typeof show>) => editor.findAll('label').map((label) => label.text())
const text = (editor: ReturnType<typeof show>, name: string) => editor.find(`[data-test=${name}]`).text()

describe('choosing a sampling rule', () => {
  it('asks what the rule needs and nothing else', () => {
    expect(labels(show({ kind: 'attributesScheme', level: 'II', aqlPercent: 1 }))).toEqual([
      'How many are looked at',
      'Level',
      'AQL, %',
      'Samples',
      'Inspection',
      'Switching rules',
      'Counted are',
      'Lot size to look at',
    ])
    expect(labels(show({ kind: 'fixedNumber', sampleSize: 5, accept: 0 }))).toEqual([
      'How many are looked at',
      'Sample size n',
      'Acceptance number Ac',
      'Lot size to look at',
    ])
    expect(labels(show({ kind: 'percentage', percent: 10, rounding: 'up', accept: 0 }))).toEqual([
      'How many are looked at',
      'Per cent of the lot',
      'Rounded',
      'Acceptance number Ac',
      'Lot size to look at',
    ])
    expect(labels(show({ kind: 'everyPiece', accept: 0 }))).toEqual(['How many are looked at', 'Acceptance number Ac', 'Lot size to look at'])
  })

  it('says beside the choice how many are looked at and what that lets through', () => {
    const editor = show({ kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 })
    expect(text(editor, 'reasoning')).toBe('lot 500, level II → letter H, arrow to J; AQL 0.65 % → 80 pieces, Ac 1')
    expect(text(editor, 'risk')).toMatch(/^A lot with 0\.65 % nonconforming passes \d+ times in 100\. A lot with .* still passes .* times in 100\.$/)
  })

  it('follows the lot size that is looked at', async () => {
    const editor = show({ kind: 'percentage', percent: 10, rounding: 'up', accept: 0 })
    expect(text(editor, 'reasoning')).toContain('10 % of 500 is 50')
    const lotSize = editor.findAllComponents(stubs['v-number-input']).find((input) => input.props('label') === 'Lot size to look at')
    await lotSize?.vm.$emit('update:modelValue', 33)
    expect(text(editor, 'reasoning')).toBe('10 % of 33 is 3.3, rounded up: 4 pieces, Ac 0')
  })

  it('says what is wrong instead of drawing a curve', async () => {
    const editor = show({ kind: 'fixedNumber', sampleSize: 5, accept: 5 })
    expect(text(editor, 'reasoning')).toBe('An acceptance number of 5 with 5 inspected would accept every lot. It is at most 4.')
    expect(editor.find('[data-test=risk]').exists()).toBe(false)
    const lotSize = editor.findAllComponents(stubs['v-number-input']).find((input) => input.props('label') === 'Lot size to look at')
    await lotSize?.vm.$emit('update:modelValue', 0)
    expect(text(editor, 'reasoning')).toContain('lot size of 0')
  })

  it('begins a new kind of rule with sensible numbers', async () => {
    const editor = show({ kind: 'everyPiece', accept: 0 })
    await editor.findAllComponents(stubs['v-select'])[0]?.vm.$emit('update:modelValue', 'fixedNumber')
    expect(editor.emitted('update:modelValue')).toEqual([[{ kind: 'fixedNumber', sampleSize: 5, accept: 0 }]])
  })
})
