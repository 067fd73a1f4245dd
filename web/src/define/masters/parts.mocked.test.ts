import { noDetails, type PlanLine } from '@nemawashi/contract'
import { assess, usualUnits, type SamplingChoice } from '@nemawashi/core'
import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { nextTick, reactive } from 'vue'

const plans = [{ id: 'p1', code: 'RP-1', name: 'Bars' }]
const units = usualUnits.map((unit) => ({ ...unit, isActive: true }))
const call = vi.fn(async () => ({ rows: plans, units }))
vi.mock('../../shell/api', async (actual) => ({ ...(await actual<object>()), call }))
const { default: AnswerRows } = await import('../library/AnswerRows.vue')
const { default: MeasuredFields } = await import('../library/MeasuredFields.vue')
const { default: PartTargets } = await import('./PartTargets.vue')
const { default: PlanLines } = await import('../plans/PlanLines.vue')
const { default: RevisionCompare } = await import('../revisions/RevisionCompare.vue')
const { default: WorkshopTable } = await import('../sampling/WorkshopTable.vue')

const field = {
  props: ['modelValue', 'label', 'errorMessages'],
  emits: ['update:modelValue'],
  template: '<label>{{ label }} {{ errorMessages }}</label>',
}
const textField = { ...field }
const stubs = { 'v-text-field': textField, 'v-select': field, 'v-autocomplete': field, PickOne: true, ToleranceStrip: true }

describe('the answers of a coded characteristic', () => {
  const answers = [
    { code: 'E', words: 'even', verdict: 'conforming' as const, followUpPlanId: null },
    { code: 'S', words: 'stained', verdict: 'neither' as const, followUpPlanId: 'gone' },
  ]
  it('each say what they mean and which plan they ask for; one that is not released is still told', async () => {
    const rows = mount(AnswerRows, { props: { isFixed: false, modelValue: answers } })
    await flushPromises()
    const [first, second] = rows.findAll('select.then')
    expect(first?.findAll('option').map((option) => option.text())).toEqual(['nothing more', 'RP-1 Bars'])
    expect(second?.findAll('option').map((option) => option.text())).toContain('a plan that is not released')
    await first?.setValue('p1')
    expect(rows.emitted('update:modelValue')?.at(-1)).toEqual([[{ ...answers[0], followUpPlanId: 'p1' }, answers[1]]])
    await rows.findAll('select')[2]?.setValue('nonconforming')
    expect(rows.emitted('update:modelValue')?.at(-1)).toMatchObject([[{ followUpPlanId: 'p1' }, { code: 'S', verdict: 'nonconforming' }]])
  })

  it('are taken out by name, and not at all once released', async () => {
    const rows = mount(AnswerRows, { props: { isFixed: false, modelValue: answers } })
    await rows.find('button[aria-label="Take answer 1 out"]').trigger('click')
    expect(rows.emitted('update:modelValue')?.at(-1)).toEqual([[answers[1]]])
    await rows.setProps({ isFixed: true })
    expect(rows.findAll('button')).toHaveLength(0)
    expect(rows.findAll('select').every((select) => select.attributes('disabled') !== undefined)).toBe(true)
  })
})

describe('parts with limits of their own', () => {
  const start = { nominal: '3', lower: '2.95', upper: '3.05' }
  it('begin with the limits of the line, are changed cell by cell, and go again', async () => {
    const targets = mount(PartTargets, { props: { isFixed: false, start, modelValue: [] }, global: { stubs } })
    expect(targets.text()).toContain('None: every part')
    targets.findComponent({ name: 'PickOne' }).vm.$emit('chosen', { id: 'a', code: 'SD-26' })
    await nextTick()
    const added = { partId: 'a', partCode: 'SD-26', ...start }
    expect(targets.emitted('update:modelValue')?.at(-1)).toEqual([[added]])
    await targets.setProps({ modelValue: [added] })
    await targets.find('input[aria-label="upper of SD-26"]').setValue('3,1')
    expect(targets.emitted('update:modelValue')?.at(-1)).toEqual([[{ ...added, upper: '3,1' }]])
    await targets.find('button').trigger('click')
    expect(targets.emitted('update:modelValue')?.at(-1)).toEqual([[]])
  })

  it('show no strip while a limit cannot be read', async () => {
    const at = (upper: string) => [{ partId: 'a', partCode: 'SD-26', nominal: null, lower: '1', upper }]
    const targets = mount(PartTargets, { props: { isFixed: true, start, modelValue: at('2') }, global: { stubs } })
    expect(targets.findComponent({ name: 'ToleranceStrip' }).exists()).toBe(true)
    await targets.setProps({ modelValue: at('two') })
    expect(targets.findComponent({ name: 'ToleranceStrip' }).exists()).toBe(false)
    expect(targets.find('button').exists()).toBe(false)
  })
})

describe('the lines of a plan', () => {
  const lines = ['A', 'B', 'C'].map((code) => ({
    characteristicId: code,
    code,
    name: `line ${code}`,
    kind: 'judged',
    class: 'minor',
    sampling: { kind: 'everyPiece', accept: 0 },
    isRequired: true,
    targets: [],
    stage: '',
  })) as unknown as PlanLine[]
  function show(isFixed = false) {
    const at = { value: 1 }
    const list = mount(PlanLines, {
      props: { isFixed, modelValue: structuredClone(lines), at: at.value, 'onUpdate:at': (to: number) => void list.setProps({ at: to }) },
      global: { stubs },
      attachTo: document.body,
    })
    return list
  }
  const order = (list: ReturnType<typeof show>) => list.findAll('.pick b').map((name) => name.text().slice(-1))

  it('move with Alt and the arrows, with the choice and the cursor on them', async () => {
    const list = show()
    await list.findAll('.pick')[1]?.trigger('keydown', { key: 'ArrowDown', altKey: true })
    await nextTick()
    list.vm.$forceUpdate()
    await nextTick()
    expect(order(list)).toEqual(['A', 'C', 'B'])
    expect(list.props('at')).toBe(2)
  })

  it('stay where they are at the ends and once released; arrows alone only walk', async () => {
    const list = show(true)
    await list.findAll('.pick')[1]?.trigger('keydown', { key: 'ArrowUp', altKey: true })
    await nextTick()
    expect(order(list)).toEqual(['A', 'B', 'C'])
    expect((document.activeElement as HTMLElement).dataset['line']).toBe('0')
    await list.findAll('.pick')[0]?.trigger('keydown', { key: 'ArrowUp' })
    expect((document.activeElement as HTMLElement).dataset['line']).toBe('0')
    expect(list.findAll('.tool')).toHaveLength(0)
  })
})

describe('two revisions side by side', () => {
  it('show what differs and nothing else', async () => {
    const revisions = [
      { id: 'b', revision: 2, state: 'draft', upper: '3', note: 'x' },
      { id: 'a', revision: 1, state: 'released', upper: '2', note: 'x' },
    ]
    const wordsOf = ({ upper, note }: (typeof revisions)[number]) => [
      { label: 'Upper', words: upper },
      { label: 'Note', words: note },
    ]
    const [left = revisions[0]] = revisions
    const compare = mount(RevisionCompare as never, { props: { left, revisions, wordsOf } as never })
    expect(compare.findAll('tbody tr').map((row) => row.text().replaceAll(/\s+/g, ' '))).toEqual(['Upper 3 2'])
    await compare.setProps({ wordsOf: () => [] } as never)
    expect(compare.text()).toContain('Both say the same.')
  })
})

describe('the rules side by side', () => {
  it('have a column a rule, with – for what is not known', () => {
    const every = { kind: 'everyArrival' } as const
    const choices: SamplingChoice[] = [
      { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, frequency: every },
      { sampling: { kind: 'everyPiece', accept: 0 }, frequency: { kind: 'oncePer', period: 'week' } },
    ]
    const options = { lotSize: 100, toPercent: 20, goodPercent: 1, poorPercent: 10, lotsPerMonth: null, minutesPerPiece: null }
    const lines = choices.map((choice, i) => ({ letter: 'AB'[i] ?? '', color: '#000', dash: 'solid', assessment: assess(choice, options) }))
    const table = mount(WorkshopTable, { props: { lines, goodPercent: 1, poorPercent: 10 } })
    const row = (words: string) =>
      table
        .findAll('tbody tr')
        .find((each) => each.find('th').text() === words)
        ?.findAll('td')
        .map((cell) => cell.text())
    // One bad piece in 100 is among 5 with the probability 5/100.
    expect(row("Producer's risk α: lots of 1 % not accepted")).toEqual(['5 of 100', '100 of 100'])
    expect(row('Share of the arrivals looked at')).toEqual(['100 %', 'by the calendar'])
    expect(row('Pieces a month')).toEqual(['–', '–'])
  })
})

describe('the fields of a measured characteristic', () => {
  const fields = () => ({
    name: 'Bore',
    kind: 'measured' as const,
    class: 'major',
    method: '',
    instruction: '',
    nominal: null,
    lower: null,
    upper: null,
    unit: 'mm',
    resolution: '0.01',
    acceptableState: null,
    details: structuredClone(noDetails),
  })
  function show(change: object = {}) {
    const modelValue = reactive({ ...fields(), ...change })
    return { modelValue, form: mount(MeasuredFields, { props: { modelValue, isFixed: false, errors: {} }, global: { stubs } }) }
  }
  const type = async (form: ReturnType<typeof show>['form'], text: string) => {
    form
      .findAllComponents(textField)
      .find((each) => each.props('label') === 'Tolerance, as on the drawing')
      ?.vm.$emit('update:modelValue', text)
    await nextTick()
    await nextTick()
  }

  it('understand a drawing’s tolerance, fill the limits and tell in full what conforms', async () => {
    const { modelValue, form } = show()
    await type(form, '12.5 ±0.05')
    expect(modelValue).toMatchObject({ nominal: '12.5', lower: '12.45', upper: '12.55' })
    expect(form.find('[data-test=conforms]').text()).toBe('Conforms from 12.45 to 12.55 mm, limits included; nonconforming beyond.')
    expect(form.find('[data-test=converted]').text()).toContain('Converted: 0.490157 to 0.494094 in.')
  })

  it('point at what they do not understand and keep the limits that stood', async () => {
    const { modelValue, form } = show({ lower: '1', upper: '2' })
    await type(form, '12.5 ±0.05 or so')
    expect(form.find('.pointer b').text()).toBe('or so')
    expect(modelValue).toMatchObject({ lower: '1', upper: '2' })
  })

  it('warn where the resolution is coarser than a tenth of the tolerance', async () => {
    const { form } = show({ lower: '1', upper: '1.05' })
    await nextTick()
    expect(form.text()).toContain('coarser than a tenth of the tolerance')
  })
})
