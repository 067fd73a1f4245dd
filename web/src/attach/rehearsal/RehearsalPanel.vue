<template>
  <section ref="section" class="rehearsal stack" aria-labelledby="rehearsal-title">
    <h2 id="rehearsal-title">Rehearsal <span class="soft small">plays it without writing anything</span></h2>
    <form class="row top" data-test="rehearsal" @submit.prevent="play">
      <v-select v-model="operationId" class="field" :items="stops" item-title="name" item-value="operationId" label="At" data-field="operation" />
      <PickOne
        v-model="partnerId"
        class="field"
        :endpoint="define.partners.list"
        :label="isBought ? 'Supplier' : 'Customer'"
        is-clearable
        :filter="isPartner"
        field="rehearsedPartner"
      />
      <v-text-field v-if="isBought" v-model="contract" class="number" label="Contract" data-field="rehearsedContract" />
      <v-text-field
        v-model.number="quantity"
        class="number"
        type="number"
        :min="step"
        :step="step"
        :label="`Quantity, ${stockUnitOf(part.unit).symbol}`"
        data-field="quantity"
      />
      <v-text-field v-model.number="lots" class="number" type="number" min="1" max="100" label="Lots in a row" data-field="lots" />
      <v-btn type="submit" color="primary" variant="outlined" :loading="isBusy">Rehearse</v-btn>
    </form>
    <ErrorNote :failure="failure" />
    <table v-if="result" class="plain" data-test="rehearsed">
      <thead>
        <tr>
          <th>Lot</th>
          <th>Control point</th>
          <th>opens</th>
          <th>n, Ac, Re</th>
          <th>holds and blocks</th>
          <th>responsible, due</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="lot in result.lots" :key="lot.number">
          <tr v-for="(entry, i) in lot.considered" :key="entry.pointId" :class="{ first: i === 0 }">
            <td class="m">{{ i === 0 ? lot.number : '' }}</td>
            <td>
              {{ entry.planName }} <span class="soft m small">{{ entry.code }}</span>
              <span v-if="entry.subject !== 'lot'" class="soft small"> {{ subjectWords[entry.subject] }}</span>
              <span v-if="momentsHere > 1" class="soft small"> {{ describeMoment(entry.moment, entry.every) }}</span>
            </td>
            <td :class="entry.opens ? 'conforming' : 'soft'">
              <b>{{ entry.opens ? '○ opens' : '– does not open' }}</b> <span class="soft">{{ whyOf(entry) }}</span>
              <span v-if="timesOf(entry)" class="line" data-test="times">{{ timesOf(entry) }}</span>
            </td>
            <td class="small">
              <span v-for="line in entry.lines" :key="line.name" class="line"
                >{{ line.name }}
                <span v-if="line.askedBy" class="soft">is asked with {{ line.askedBy }}</span>
                <b v-else class="m">n {{ line.sampleSize }}, Ac {{ line.accept }}, Re {{ line.reject }}</b></span
              >
            </td>
            <td class="small">
              <template v-if="entry.opens && entry.blocks"
                ><b class="hold">gate</b> holds {{ entry.holds === 'sample' ? `the sample of ${sampleOf(entry)}` : `all ${whole(quantity)}` }};
                {{ gateWords[entry.blocks] }}{{ entry.holdPlaceName ? `; waits in ${entry.holdPlaceName}` : '' }}</template
              >
              <span v-if="entry.opens && followsOf(entry)" class="soft line" data-test="follows">{{ followsOf(entry) }}</span>
            </td>
            <td class="small">{{ entry.opens ? [entry.responsible, entry.dueAt ? momentOf(entry.dueAt) : ''].filter(Boolean).join(', ') : '' }}</td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-if="result && result.lots.every((lot) => lot.considered.length === 0)" class="marginal">
      Nothing is asked at {{ result.operationName }}: it passes unseen.
    </p>
    <YearPanel :part="part" />
  </section>
</template>

<script setup lang="ts">
import { gateWords, momentsOf, describeApplied, describeDue, describeMoment, subjectWords, quantityValue, stockUnitOf } from '@nemawashi/core'
import { type Considered, type Flow, type Part, type Partner, type Rehearsal, attach, define } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { call } from '../../shell/api'
import ErrorNote from '../../components/ErrorNote.vue'
import { momentOf, whole, typedQuantity } from '../../format/format'
import { onFailureWords } from '../../format/onFailureWords'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'
import { followsWords } from './followsWords'
import YearPanel from './YearPanel.vue'

/** Plays what could come to a stop of the flow line: what would open, with which samples, and what would not, and why. */
const { flow, part } = defineProps<{ flow: Flow; part: Part }>()

const route = useRoute()
const section = ref<HTMLElement>()
const stops = computed(() => flow.stops)
const operationId = ref<string | null>(null)
const partnerId = ref<string | null>(null)
const contract = ref('')
const quantity = ref(500)
const step = computed(() => quantityValue(1, part.unit))
const lots = ref(3)
const { isBusy, failure, save } = useSaver()
const result = ref<Rehearsal | null>(null)
const kind = computed(() => flow.stops.find((stop) => stop.operationId === operationId.value)?.kind ?? 'receiving')
const isBought = computed(() => kind.value === 'receiving')
const momentsHere = computed(() => momentsOf[kind.value].length)
const isPartner = (row: Partner) => row.kind === (isBought.value ? 'supplier' : 'customer')

watch(
  stops,
  (now) => {
    if (!now.some((stop) => stop.operationId === operationId.value))
      operationId.value = (now.find((stop) => stop.points.length > 0) ?? now[0])?.operationId ?? null
  },
  { immediate: true },
)
// What was rehearsed under other rules says nothing of these.
watch([() => flow, operationId, partnerId, contract, quantity, lots], () => (result.value = null))

/** What an address asks for: something that happened, under the rules of today. */
async function playAsked(): Promise<void> {
  const { rehearse, quantity: wanted, partner } = route.query
  const stop = flow.stops.find(({ operationId: id, kind: moment }) => id === rehearse || moment === rehearse)
  if (!stop) return
  operationId.value = stop.operationId
  partnerId.value = typeof partner === 'string' ? partner : null
  if (Number(wanted) > 0) quantity.value = quantityValue(Number(wanted), part.unit)
  lots.value = 1
  // What was chosen just now clears what was played before.
  await nextTick()
  await play()
  section.value?.scrollIntoView({ block: 'start' })
}
onMounted(playAsked)

function whyOf(entry: Considered): string {
  if (entry.due === null) return describeApplied(entry)
  return `${describeApplied(entry)}; ${describeDue(entry.due)}${entry.due.because.kind === 'drawn' ? ' (by chance, another time it may fall otherwise)' : ''}`
}
/** How often an interval comes up in a lot. */
function timesOf({ due, every, times, moment }: Considered): string {
  if (due === null || every === null) return ''
  if (times === null) return `again each ${every} minutes while the step runs`
  if (times === 0) return `comes up with the ${whole(every)}th piece, and the lot has fewer`
  return `comes up ${times === 1 ? 'once' : `${whole(times)} times`} in ${whole(quantity.value)}, where pieces are reported as they are made${moment === 'everyPieces' && due.because.kind !== 'every' ? '; the frequency is asked each time' : ''}`
}
/** What follows from its finding, beside the hold of a gate. */
function followsOf(entry: Considered): string {
  const { advice, tells, isGate, onFailure } = entry
  const failing = isGate ? '' : onFailureWords[onFailure]
  const notified = tells === 0 ? '' : `a failure is told to ${tells === 1 ? 'one person' : `${tells} people`}`
  return [...followsWords(entry), failing, notified, advice === '' ? '' : `advice when not accepted: ${advice}`].filter(Boolean).join('; ')
}
const sampleOf = ({ lines }: Considered) => whole(Math.max(0, ...lines.map(({ sampleSize }) => sampleSize)))
async function play(): Promise<void> {
  const at = operationId.value
  if (at === null) return
  const partner = partnerId.value === null ? {} : { partnerId: partnerId.value }
  const under = contract.value.trim() === '' ? {} : { contract: contract.value.trim() }
  result.value = null
  await save(async () => {
    result.value = await call(attach.rehearse, {
      query: { operationId: at, partId: part.id, quantity: typedQuantity(String(quantity.value), part.unit), lots: lots.value, ...partner, ...under },
    })
  })
}
</script>

<style scoped>
.rehearsal {
  border-top: 1px solid var(--rule);
  padding-top: 14px;
  margin-top: 18px;
}
.field {
  flex: 1 1 180px;
}
.number {
  flex: 0 1 140px;
}
.line {
  display: block;
}
tr.first td {
  border-top: 1px solid var(--ink-soft, var(--rule));
}
</style>
