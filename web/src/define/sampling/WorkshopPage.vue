<template>
  <SheetSplit list-words="Rules to weigh" left="minmax(330px, 30%)">
    <template #nav><DefineNav current="sampling" /></template>
    <template #list>
      <div class="rules">
        <template v-for="(choice, i) in choices" :key="i"
          ><RuleCard
            v-if="strokes[i]"
            :choice="choice"
            :stroke="strokes[i]"
            :reasoning="assessmentOf(i)?.sample?.reasoning ?? assessmentOf(i)?.words ?? ''"
            :problem="problemOf(i)"
            :can-take-out="choices.length > 1"
            @change="set(i, $event)"
            @take-out="takeOut(i)"
        /></template>
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
      <TabLinks class="flat" label="What of the rules is shown" :tabs="tabs" />

      <template v-if="tab === 'risk'">
        <div class="sliders">
          <label
            >Lot size N
            <TypedInput
              :value="lotSize"
              class="m typed"
              inputmode="numeric"
              aria-label="Lot size, typed"
              data-field="lotTyped"
              @taken="lotTyped" /><input v-model.number="lotSlider" type="range" min="0" max="1000" aria-label="Lot size" data-field="lotSlider"
          /></label>
          <label
            >Acceptable quality, %
            <TypedInput
              :value="goodPercent"
              class="m typed"
              inputmode="decimal"
              aria-label="Acceptable quality, per cent, typed"
              @taken="goodTyped" /><input v-model.number="goodSlider" type="range" min="0" max="1000" aria-label="Acceptable quality, per cent"
          /></label>
          <label
            >Limiting quality, %
            <TypedInput
              :value="poorPercent"
              class="m typed"
              inputmode="decimal"
              aria-label="Limiting quality, per cent, typed"
              @taken="poorTyped" /><input v-model.number="poorSlider" type="range" min="0" max="1000" aria-label="Limiting quality, per cent"
          /></label>
        </div>
        <label v-if="isByVariables" class="both"
          ><input v-model="isBothLimits" type="checkbox" data-field="bothLimits" /> By variables with both limits, half of what is nonconforming
          beyond each; else all beyond one</label
        >
        <p v-if="isLong" class="small soft" role="status" data-test="weighing">
          The risks are being worked out; what stands here is of the rules before …
        </p>
        <ol class="sentences">
          <li v-for="line in lines" :key="line.letter">
            <b :style="{ color: line.color }">{{ line.letter }}</b> <span data-test="sentence">{{ line.assessment.sentence }}</span>
          </li>
        </ol>
        <v-btn-toggle v-model="view" density="compact" mandatory variant="outlined" divided aria-label="What the chart shows">
          <v-btn v-for="({ title }, value) in riskViews" :key="value" :value="value" size="small">{{ title }}</v-btn>
        </v-btn-toggle>
        <RiskChart
          v-if="lines.length > 0"
          :lines="lines"
          :view="view"
          :end="end"
          :caption="`Lots of ${whole(lotSize)}; ${riskViews[view].caption}`"
          :height="280"
        />
        <WorkshopTable v-if="lines.length > 0" :lines="lines" :good-percent="goodPercent" :poor-percent="poorPercent" />
        <p v-if="past" class="small soft">
          {{ arrivalWords }}
        </p>
        <p v-else class="small soft">Choose a characteristic to reckon pieces and minutes a month with the arrivals that were recorded.</p>
      </template>
      <PastPanel
        v-else-if="tab === 'past'"
        :past="past"
        :choices="choices"
        :limits="limits"
        :judging="definition?.details ?? null"
        :unit="unit"
        :poor-percent="poorPercent"
      />
      <SwitchingPanel v-else :past="past" :choices="choices" />
    </div>
    <UseRuleDialog v-model="isUsing" :choices="choices" :characteristic-id="characteristicId" />
  </SheetSplit>
</template>

<script setup lang="ts">
import { define } from '@nemawashi/contract'
import { computed, defineAsyncComponent, ref, watch, type Ref } from 'vue'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import { largestLot } from '@nemawashi/core'
import { isDark } from '../../shell/night'
import { whole } from '../../format/format'
import PickOne from '../../components/PickOne.vue'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import { roundEnd } from '../../workers/roundEnd'
import { strokesOn } from './chartScale'
import DefineNav from '../DefineNav.vue'
import PastPanel from './PastPanel.vue'
import type { RiskLine } from './RiskChart.vue'
import { riskViews } from './riskView'
import RuleCard from './RuleCard.vue'
import SwitchingPanel from './SwitchingPanel.vue'
import UseRuleDialog from './UseRuleDialog.vue'
import { useAssessments } from './useSamplingWorker'
import { useWorkshop } from './useWorkshop'
import WorkshopTable from './WorkshopTable.vue'
import TypedInput from '../../components/TypedInput.vue'

/** Up to four sampling choices side by side: their risk and cost, what they would have done to the past, and how they switch. */
const RiskChart = defineAsyncComponent(() => import('./RiskChart.vue'))
const { isEngineer } = useSession()
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Sampling workshop' }])

const {
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
} = useWorkshop()
const isUsing = ref(false)

const reach = ref(10)
/** A typed number that cannot be meant leaves what was there. */
const typed = (field: Ref<number>, isGood: (value: number) => boolean) => (text: string) => {
  const value = Number(text.trim().replace(',', '.') || NaN)
  if (isGood(value)) field.value = value
}
const isPercent = (value: number) => value > 0 && value < 100
const lotTyped = typed(lotSize, (value) => Number.isInteger(value) && value >= 1 && value <= largestLot)
const goodTyped = typed(goodPercent, isPercent)
const poorTyped = typed(poorPercent, isPercent)
const end = computed(() => roundEnd(Math.max(reach.value, 2 * goodPercent.value, 1.3 * poorPercent.value)))
const { outcomes, isLong } = useAssessments(
  () => choices.value,
  () => ({
    lotSize: lotSize.value,
    toPercent: end.value,
    goodPercent: goodPercent.value,
    poorPercent: poorPercent.value,
    lotsPerMonth: past.value?.lotsPerMonth ?? null,
    minutesPerPiece: definition.value?.details.minutesPerPiece ?? null,
    limits: isByVariables.value && isBothLimits.value ? ('two' as const) : ('one' as const),
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
const isNight = isDark(false)
const strokes = computed(() => strokesOn(isNight.value))
const lines = computed<RiskLine[]>(() =>
  choices.value.flatMap((_, i) => {
    const [assessment, stroke] = [assessmentOf(i), strokes.value[i]]
    return assessment && stroke ? [{ ...stroke, assessment }] : []
  }),
)
watch(lines, (all) => {
  const widest = Math.max(0.2, ...all.map(({ assessment }) => Math.min(assessment.at10 ?? 10, 60)))
  reach.value = 1.6 * widest
})

useKeys([
  { key: 'N', words: 'compare with another rule', run: add },
  { key: 'U', words: 'put a rule on a plan line', run: () => (isUsing.value = isEngineer) },
])
</script>

<style scoped>
.flat {
  padding: 0;
}
.rules {
  overflow: auto;
  padding: 12px 16px 24px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.sheet {
  padding: 20px 28px 40px;
  max-width: 1060px;
}
.ask {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
}
.sliders {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 12px 24px;
}
.sliders label {
  display: grid;
  grid-template-columns: auto auto;
  justify-content: start;
  column-gap: 8px;
}
.sliders .typed {
  width: 84px;
  height: 28px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 0 6px;
  text-align: right;
}
.sliders input[type='range'] {
  grid-column: 1 / -1;
  width: min(240px, 100%);
  height: 26px;
  accent-color: var(--indigo);
}
.both {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
.both input {
  accent-color: var(--indigo);
}
.sentences {
  list-style: none;
  margin: 0;
  padding: 0;
  font: 600 15px/22px var(--words);
}
</style>
