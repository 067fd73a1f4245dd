import { type CharacteristicFields, type Past, define } from '@nemawashi/contract'
import type { SamplingChoice } from '@nemawashi/core'
import { computed, ref, watch, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../shell/api'
import { count, whole } from '../../format/format'
import type { RiskView } from './riskView'
import { packRules, unpackRules } from './rulesInAddress'

const start: SamplingChoice = { sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 1 }, frequency: { kind: 'everyArrival' } }

/** Sliders run over powers of ten, rounded to two figures. */
const power = (from: number, to: number) => ({
  value: (at: number) => Number((10 ** (from + ((to - from) * at) / 1000)).toPrecision(2)),
  place: (value: number) => Math.round((1000 * (Math.log10(value) - from)) / (to - from)),
})
const lots = power(0.7, 5)
const percents = power(-2, 1.7)

const tabWords = [
  ['risk', 'risk and cost'],
  ['past', 'recorded lots'],
  ['switching', 'switching'],
] as const

/** What is weighed in the workshop and against what: the rules, the lot, two qualities, and the past of a characteristic. Kept in the address. */
export function useWorkshop() {
  const route = useRoute()
  const router = useRouter()
  const text = (key: string) => (typeof route.query[key] === 'string' && route.query[key] !== '' ? route.query[key] : null)
  const choices = ref<SamplingChoice[]>(unpackRules(route.query['rules']) ?? [start])
  const characteristicId = ref(text('characteristic'))
  const partId = ref(text('part'))
  const supplierId = ref(text('supplier'))
  const tab = computed(() => text('tab') ?? 'risk')
  const tabs = computed(() => tabWords.map(([key, words]) => ({ words, to: { query: { ...route.query, tab: key } }, isOn: tab.value === key })))
  const view = ref<RiskView>((text('view') as RiskView | null) ?? 'accepted')
  const isBothLimits = ref(text('limits') === 'two')
  const isByVariables = computed(() => choices.value.some(({ sampling }) => sampling.kind.startsWith('variables')))

  // The numbers are what counts; a slider is a coarse hand on one of them, a typed number is kept as it is.
  const lotSize = ref(Number(text('lot') ?? 500))
  const goodPercent = ref(Number(text('good') ?? 1))
  const poorPercent = ref(Number(text('poor') ?? 5))
  const sliderOf = (number: Ref<number>, { place, value }: typeof lots, round: (n: number) => number = (n) => n) =>
    computed({ get: () => place(number.value), set: (at) => (number.value = round(value(at))) })
  const lotSlider = sliderOf(lotSize, lots, Math.round)
  const goodSlider = sliderOf(goodPercent, percents)
  const poorSlider = sliderOf(poorPercent, percents)

  const past = ref<Past | null>(null)
  const definition = ref<CharacteristicFields | null>(null)
  watch(
    [characteristicId, partId, supplierId],
    async ([characteristic, part, supplier]) => {
      past.value = null
      definition.value = null
      if (!characteristic) return
      const query = { ...(part ? { partId: part } : {}), ...(supplier ? { supplierId: supplier } : {}) }
      const [found, loaded] = await Promise.all([
        call(define.getPast, { params: { id: characteristic }, query }),
        call(define.getCharacteristic, { params: { id: characteristic } }),
      ])
      if (characteristicId.value !== characteristic) return
      past.value = found
      definition.value = loaded.revisions.find((revision) => revision.state === 'released') ?? loaded.revisions[0] ?? null
      if (text('limits') === null) isBothLimits.value = definition.value?.lower != null && definition.value.upper != null
      if (found.medianLot !== null && text('lot') === null) lotSize.value = found.medianLot
    },
    { immediate: true },
  )
  const limits = computed(() => {
    const current = definition.value
    return current?.kind === 'measured' ? { nominal: current.nominal, lower: current.lower, upper: current.upper } : null
  })
  const unit = computed(() => definition.value?.unit ?? '')
  const arrivalWords = computed(() => {
    if (!past.value) return ''
    const { lots: recorded, lotsPerMonth, medianLot } = past.value
    if (lotsPerMonth === null || medianLot === null) return `${count(recorded.length, 'recorded lot')}: too few to tell how many arrive a month.`
    const minutes = definition.value?.details.minutesPerPiece
    return `Reckoned with ${Number(lotsPerMonth.toPrecision(2))} lots a month, as the last ${count(recorded.length, 'recorded lot')} arrived${minutes ? `, and ${minutes} minutes a piece` : ''}; half of them hold ${whole(medianLot)} or fewer.`
  })

  function set(i: number, change: Partial<SamplingChoice>): void {
    choices.value = choices.value.map((choice, at) => (at === i ? { ...choice, ...change } : choice))
  }
  function add(): void {
    if (choices.value.length < 4)
      choices.value = [...choices.value, structuredClone(JSON.parse(JSON.stringify(choices.value.at(-1) ?? start)) as SamplingChoice)]
  }
  function takeOut(i: number): void {
    choices.value = choices.value.filter((_, at) => at !== i)
  }
  watch(
    [choices, lotSize, goodPercent, poorPercent, characteristicId, partId, supplierId, tab, view, isBothLimits, isByVariables],
    () =>
      void router.replace({
        query: {
          rules: packRules(choices.value),
          lot: lotSize.value,
          good: goodPercent.value,
          poor: poorPercent.value,
          ...(characteristicId.value ? { characteristic: characteristicId.value } : {}),
          ...(partId.value ? { part: partId.value } : {}),
          ...(supplierId.value ? { supplier: supplierId.value } : {}),
          ...(tab.value === 'risk' ? {} : { tab: tab.value }),
          ...(view.value === 'accepted' ? {} : { view: view.value }),
          ...(isByVariables.value ? { limits: isBothLimits.value ? 'two' : 'one' } : {}),
        },
      }),
    { deep: true },
  )
  return {
    choices,
    characteristicId,
    partId,
    supplierId,
    tab,
    tabs,
    view,
    isBothLimits,
    isByVariables,
    lotSlider,
    goodSlider,
    poorSlider,
    lotSize,
    goodPercent,
    poorPercent,
    past,
    definition,
    limits,
    unit,
    arrivalWords,
    set,
    add,
    takeOut,
  }
}
