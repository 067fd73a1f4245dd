<template>
  <SheetSplit list-words="Rules to weigh" left="minmax(330px, 30%)">
    <template #list>
      <DefineNav current="sampling" />
      <div class="rules">
        <section v-for="(choice, i) in choices" :key="i" class="rule stack" :aria-label="`Rule ${strokes[i]?.letter}`">
          <div class="row head">
            <svg width="34" height="12" aria-hidden="true">
              <line x1="0" x2="34" y1="6" y2="6" :stroke="strokes[i]?.color" stroke-width="3" :stroke-dasharray="dashOf(i)" />
            </svg>
            <h2 class="grow">Rule {{ strokes[i]?.letter }}</h2>
            <button v-if="choices.length > 1" type="button" :aria-label="`Take rule ${strokes[i]?.letter} out`" @click="takeOut(i)">✕</button>
          </div>
          <div class="fields">
            <SamplingFields :model-value="choice.sampling" :is-fixed="false" with-runs @update:model-value="set(i, { sampling: $event })" />
          </div>
          <div v-if="choice.sampling.kind !== 'continuous'" class="fields">
            <v-select
              :model-value="choice.frequency.kind"
              label="How often"
              :items="frequencies"
              data-field="frequencyKind"
              @update:model-value="set(i, { frequency: { ...frequencyKinds[$event as FrequencyRule['kind']].start } })"
            />
            <RuleFields
              :model-value="choice.frequency as unknown as Record<string, unknown>"
              :fields="frequencyKinds[choice.frequency.kind].fields"
              :is-fixed="false"
              @update:model-value="set(i, { frequency: $event as unknown as FrequencyRule })"
            />
          </div>
          <p v-if="problemOf(i)" class="nonconforming small" role="alert">{{ problemOf(i) }}</p>
          <p v-else class="small soft">{{ assessmentOf(i)?.sample?.reasoning ?? assessmentOf(i)?.words }}</p>
        </section>
        <v-btn v-if="choices.length < 4" variant="outlined" size="small" data-test="add-rule" @click="add">Compare with another rule</v-btn>
      </div>
    </template>

    <div class="sheet stack">
      <div class="row">
        <h1 class="grow">Sampling workshop</h1>
        <v-btn v-if="isEngineer" variant="outlined" color="primary" data-test="use-rule" @click="isUsing = true">Put a rule on a plan line</v-btn>
      </div>
      <div class="ask">
        <PickOne
          v-model="characteristicId"
          :endpoint="define.listCharacteristics"
          label="Characteristic, for its real arrivals"
          is-clearable
          field="characteristic"
        />
        <PickOne v-model="partId" :endpoint="define.parts.list" label="Only this part" is-clearable field="part" />
        <PickOne v-model="supplierId" :endpoint="define.partners.list" label="Only this supplier" is-clearable field="supplier" />
      </div>
      <v-tabs v-model="tab" density="compact" color="primary">
        <v-tab value="risk">Risk and cost</v-tab>
        <v-tab value="past">On the past</v-tab>
        <v-tab value="switching">Switching</v-tab>
      </v-tabs>

      <template v-if="tab === 'risk'">
        <div class="sliders">
          <label
            >Lot of <b class="m">{{ whole(lotSize) }}</b><input
              v-model.number="lotSlider"
              type="range"
              min="0"
              max="1000"
              aria-label="Lot size"
              data-field="lotSlider"
          /></label>
          <label
            >Good quality <b class="m">{{ goodPercent }} %</b
            ><input v-model.number="goodSlider" type="range" min="0" max="1000" aria-label="Good quality, per cent"
          /></label>
          <label
            >Poor quality <b class="m">{{ poorPercent }} %</b
            ><input v-model.number="poorSlider" type="range" min="0" max="1000" aria-label="Poor quality, per cent"
          /></label>
        </div>
        <ol class="sentences">
          <li v-for="line in lines" :key="line.letter">
            <b :style="{ color: line.color }">{{ line.letter }}</b> <span data-test="sentence">{{ line.assessment.sentence }}</span>
          </li>
        </ol>
        <v-btn-toggle v-model="view" density="compact" mandatory variant="outlined" divided aria-label="What the chart shows">
          <v-btn v-for="{ value, title } in views" :key="value" :value="value" size="small">{{ title }}</v-btn>
        </v-btn-toggle>
        <RiskChart
          v-if="lines.length > 0"
          :lines="lines"
          :view="view"
          :end="end"
          :caption="`Lots of ${whole(lotSize)}; ${captionOf[view]}`"
          :height="280"
        />
        <WorkshopTable v-if="lines.length > 0" :lines="lines" :good-percent="goodPercent" :poor-percent="poorPercent" />
        <p v-if="past" class="small soft">
          {{ arrivalWords }}
        </p>
        <p v-else class="small soft">Choose a characteristic to reckon pieces and minutes a month with the arrivals that were recorded.</p>
      </template>
      <PastPanel v-else-if="tab === 'past'" :past="past" :choices="choices" :limits="limits" :unit="unit" :poor-percent="poorPercent" />
      <SwitchingPanel v-else :past="past" :choices="choices" />
    </div>
    <UseRuleDialog v-model="isUsing" :choices="choices" :characteristic-id="characteristicId" />
  </SheetSplit>
</template>

<script setup lang="ts">
import { endpoints, type CharacteristicFields, type Past } from '@nemawashi/contract'
import type { FrequencyRule, SamplingChoice } from '@nemawashi/core'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { useKeys } from '../frame/keys'
import { useSession } from '../frame/session'
import { count, whole } from '../pieces/format'
import PickOne from '../pieces/PickOne.vue'
import SheetSplit from '../pieces/SheetSplit.vue'
import { roundEnd, strokes } from './chartScale'
import DefineNav from './DefineNav.vue'
import PastPanel from './PastPanel.vue'
import type { RiskLine, RiskView } from './RiskChart.vue'
import RuleFields from './RuleFields.vue'
import { packRules, unpackRules } from './rulesInAddress'
import SamplingFields from './SamplingFields.vue'
import { frequencyKinds } from './samplingKinds'
import SwitchingPanel from './SwitchingPanel.vue'
import UseRuleDialog from './UseRuleDialog.vue'
import { useAssessments } from './useSamplingWorker'
import WorkshopTable from './WorkshopTable.vue'

/** Up to four sampling choices side by side: their risk and cost, what they would have done to the past, and how they switch. */
const RiskChart = defineAsyncComponent(() => import('./RiskChart.vue'))
const { define } = endpoints
const route = useRoute()
const router = useRouter()
const { isEngineer } = useSession()
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Sampling workshop' }])

const text = (key: string) => (typeof route.query[key] === 'string' && route.query[key] !== '' ? route.query[key] : null)
const start: SamplingChoice = { sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 1 }, frequency: { kind: 'everyArrival' } }
const choices = ref<SamplingChoice[]>(unpackRules(route.query['rules']) ?? [start])
const characteristicId = ref(text('characteristic'))
const partId = ref(text('part'))
const supplierId = ref(text('supplier'))
const tab = ref(text('tab') ?? 'risk')
const view = ref<RiskView>((text('view') as RiskView | null) ?? 'accepted')
const isUsing = ref(false)

/** Sliders run over powers of ten, rounded to two figures. */
const power = (from: number, to: number) => ({
  value: (at: number) => Number((10 ** (from + ((to - from) * at) / 1000)).toPrecision(2)),
  place: (value: number) => Math.round((1000 * (Math.log10(value) - from)) / (to - from)),
})
const lots = power(0.7, 5)
const percents = power(-2, 1.7)
const lotSlider = ref(lots.place(Number(text('lot') ?? 500)))
const goodSlider = ref(percents.place(Number(text('good') ?? 1)))
const poorSlider = ref(percents.place(Number(text('poor') ?? 5)))
const lotSize = computed(() => Math.round(lots.value(lotSlider.value)))
const goodPercent = computed(() => percents.value(goodSlider.value))
const poorPercent = computed(() => percents.value(poorSlider.value))

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
    if (found.medianLot !== null && text('lot') === null) lotSlider.value = lots.place(found.medianLot)
  },
  { immediate: true },
)
const limits = computed(() => {
  const of = definition.value
  return of?.kind === 'measured' ? { nominal: of.nominal, lower: of.lower, upper: of.upper } : null
})
const unit = computed(() => definition.value?.unit ?? '')
const arrivalWords = computed(() => {
  if (!past.value) return ''
  const { lots: recorded, lotsPerMonth, medianLot } = past.value
  if (lotsPerMonth === null || medianLot === null) return `${count(recorded.length, 'recorded lot')}: too few to tell how many arrive a month.`
  const minutes = definition.value?.details.minutesPerPiece
  return `Reckoned with ${Number(lotsPerMonth.toPrecision(2))} lots a month, as the last ${count(recorded.length, 'recorded lot')} arrived${minutes ? `, and ${minutes} minutes a piece` : ''}; half of them hold ${whole(medianLot)} or fewer.`
})

const reach = ref(10)
const end = computed(() => roundEnd(Math.max(reach.value, 2 * goodPercent.value, 1.3 * poorPercent.value)))
const { outcomes } = useAssessments(
  () => choices.value,
  () => ({
    lotSize: lotSize.value,
    toPercent: end.value,
    goodPercent: goodPercent.value,
    poorPercent: poorPercent.value,
    lotsPerMonth: past.value?.lotsPerMonth ?? null,
    minutesPerPiece: definition.value?.details.minutesPerPiece ?? null,
  }),
)
const assessmentOf = (i: number) => {
  const outcome = outcomes.value[i]
  return outcome && 'value' in outcome ? outcome.value : null
}
const problemOf = (i: number) => {
  const outcome = outcomes.value[i]
  return outcome && 'problem' in outcome ? outcome.problem : ''
}
const lines = computed<RiskLine[]>(() =>
  choices.value.flatMap((_, i) => {
    const [assessment, stroke] = [assessmentOf(i), strokes[i]]
    return assessment && stroke ? [{ ...stroke, assessment }] : []
  }),
)
watch(lines, (all) => {
  const widest = Math.max(0.2, ...all.map(({ assessment }) => Math.min(assessment.at10 ?? 10, 60)))
  reach.value = 1.6 * widest
})

const views: readonly { value: RiskView; title: string }[] = [
  { value: 'accepted', title: 'Accepted' },
  { value: 'outgoing', title: 'Goes out' },
  { value: 'pieces', title: 'Pieces a lot' },
  { value: 'total', title: 'With sorting' },
]
const captionOf: Readonly<Record<RiskView, string>> = {
  accepted: 'how often a lot of each quality is accepted.',
  outgoing: 'what passes on average, when refused lots are sorted and what is found replaced.',
  pieces: 'pieces looked at on average.',
  total: 'pieces looked at when refused lots are sorted whole.',
}
const frequencies = Object.entries(frequencyKinds).map(([value, { title }]) => ({ title, value }))

function dashOf(i: number): string {
  const dash = strokes[i]?.dash
  return Array.isArray(dash) ? dash.join(' ') : ''
}
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
  [choices, lotSize, goodPercent, poorPercent, characteristicId, partId, supplierId, tab, view],
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
      },
    }),
  { deep: true },
)
useKeys([
  { key: 'N', words: 'compare with another rule', run: add },
  { key: 'U', words: 'put a rule on a plan line', run: () => (isUsing.value = isEngineer) },
])
</script>

<style scoped>
.rules {
  overflow: auto;
  padding: 12px 16px 24px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.rule {
  border-bottom: 1px solid var(--rule);
  padding-bottom: 10px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.fields > :first-child,
.fields :deep(.long) {
  grid-column: 1 / -1;
}
.fields :deep(.add),
.fields :deep(.stages) {
  grid-column: 1 / -1;
}
.head button {
  border: 0;
  background: none;
  color: var(--indigo);
  cursor: pointer;
}
.rule p {
  margin: 0;
}
.sheet {
  padding: 20px 28px 40px;
  max-width: 1060px;
}
.ask {
  display: grid;
  grid-template-columns: 1.4fr 1fr 1fr;
  gap: 12px;
}
.sliders {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 24px;
}
.sliders label {
  display: grid;
  grid-template-columns: auto auto;
  justify-content: start;
  column-gap: 8px;
}
.sliders input {
  grid-column: 1 / -1;
  width: 240px;
  accent-color: var(--indigo);
}
.sentences {
  list-style: none;
  margin: 0;
  padding: 0;
  font: 600 15px/22px var(--words);
}
</style>
