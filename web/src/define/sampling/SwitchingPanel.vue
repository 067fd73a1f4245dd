<template>
  <EmptyState
    v-if="!past || past.lots.length === 0"
    title="Switching"
    text="Choose a characteristic above: its recorded lots are run through the switching rules, from normal to tightened or reduced inspection and back."
  />
  <EmptyState
    v-else-if="schemes.length === 0"
    title="Switching"
    text="The switching rules belong to MIL-STD-105E. Choose that scheme for one of the rules."
  />
  <div v-else class="stack">
    <div class="row">
      <v-checkbox v-model="allowsReduced" label="production is steady, reduced inspection is allowed" hide-details />
    </div>
    <section v-for="scheme in schemes" :key="scheme.letter">
      <h2>Rule {{ scheme.letter }} · {{ scheme.words }}</h2>
      <p class="sentence">{{ scheme.sentence }}</p>
      <svg :viewBox="`0 0 900 96`" width="100%" height="96" role="img" :aria-label="scheme.sentence">
        <text v-for="(state, i) in order" :key="state" x="0" :y="16 + i * 22" class="small">{{ state }}</text>
        <g v-for="(step, i) in scheme.steps" :key="i">
          <rect
            :x="96 + i * scheme.width"
            :y="6 + order.indexOf(step.under) * 22"
            :width="Math.max(1, scheme.width)"
            height="12"
            :class="step.under"
          />
          <circle
            v-if="!scheme.judged[i]?.isAccepted"
            :cx="96 + (i + 0.5) * scheme.width"
            :cy="12 + order.indexOf(step.under) * 22"
            r="3"
            class="failed"
          />
          <title>
            {{ past.lots[i]?.code }}: {{ scheme.judged[i]?.isAccepted ? 'accepted' : 'not accepted' }} under {{ step.under }} inspection{{
              step.because ? `; then ${step.next}: ${describeSwitch(step.because)}` : ''
            }}
          </title>
        </g>
      </svg>
      <ol v-if="scheme.switches.length > 0" class="switches">
        <li v-for="change in scheme.switches" :key="change.index">
          after lot <b class="m">{{ change.code }}</b> ({{ dayOf(change.day) }}): {{ change.from }} → <b>{{ change.to }}</b>,
          {{ describeSwitch(change.because) }}
        </li>
      </ol>
    </section>
    <p class="small soft">
      Each lot is judged by what was recorded of it, under the acceptance number of the inspection in force for its size; a red dot is a lot not
      accepted. Rules of MIL-STD-105E, 4.7 and 4.8; the score that leads to reduced inspection as in ISO 2859-1.
    </p>
  </div>
</template>

<script setup lang="ts">
import type { Past } from '@nemawashi/contract'
import { describeSamplingRule, describeSwitch, type SamplingChoice, switchingHistory, type SwitchState } from '@nemawashi/core'
import { computed, ref } from 'vue'
import EmptyState from '../../components/EmptyState.vue'
import { count, dayOf } from '../../format/format'
import { strokes } from './chartScale'

/** The switching rules run over the recorded lots, as a line in time that says why each switch happened. */
const { past, choices } = defineProps<{ past: Past | null; choices: readonly SamplingChoice[] }>()
const allowsReduced = ref(true)
const order: readonly SwitchState[] = ['reduced', 'normal', 'tightened', 'discontinued']
type Lot = Past['lots'][number]

/** A lot as the rules see it: what was recorded of it. */
const recorded = ({ quantity, readings }: Lot) => ({
  quantity,
  recorded: readings.length,
  found: readings.filter((reading) => !reading.isConforming).length,
})

const schemes = computed(() =>
  choices.flatMap(({ sampling }, at) => {
    if (sampling.kind !== 'attributesScheme') return []
    const lots = past?.lots ?? []
    const steps = switchingHistory(lots.map(recorded), sampling, { allowsReduced: allowsReduced.value })
    const judged = steps.map((step) => step.judged)
    const switches = steps.flatMap(({ under, next, because }, index) =>
      because === null ? [] : [{ index, code: lots[index]?.code ?? '', day: lots[index]?.day ?? '', from: under, to: next, because }],
    )
    const last = steps.at(-1)
    const now = last?.next ?? 'normal'
    const score = now === 'normal' && last?.under === 'normal' ? `, switching score ${last.score}` : ''
    return [
      {
        letter: strokes[at]?.letter ?? '',
        words: describeSamplingRule(sampling),
        steps,
        judged,
        switches,
        width: 800 / Math.max(1, steps.length),
        sentence: `${count(lots.length, 'lot')}, ${switches.length === 0 ? 'no switch' : count(switches.length, 'switch').replace('switchs', 'switches')}; the next lot is under ${now} inspection${score}.`,
      },
    ]
  }),
)
</script>

<style scoped>
.sentence {
  font: 600 15px/22px var(--words);
  margin: 4px 0;
}
rect.normal {
  fill: var(--indigo);
}
rect.tightened {
  fill: var(--marginal);
}
rect.reduced {
  fill: var(--conforming);
}
rect.discontinued {
  fill: var(--nonconforming);
}
.failed {
  fill: var(--nonconforming);
  stroke: var(--sheet);
}
text {
  font: 12px var(--words);
  fill: var(--soft);
}
.switches {
  margin: 0;
  padding-left: 20px;
}
</style>
