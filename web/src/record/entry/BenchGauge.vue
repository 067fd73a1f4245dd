<template>
  <section class="gauge small" aria-label="Gauge">
    <template v-if="use && !isChoosing">
      <span
        >Gauge <b class="m" data-test="gauge">{{ use.code }}</b> {{ use.name
        }}<template v-if="use.dueOn">, {{ isPast(use.dueOn) ? 'was due for calibration' : 'calibrated until' }} {{ dayWords(use.dueOn) }}</template
        >.</span
      >
      <InstrumentState v-if="use.isSending && isOpen" :listening="listening" @listen="emit('listen')" />
      <span v-if="use.reason" class="marginal" data-test="gauge-waived">{{ against(use.objections) }}; used all the same: {{ use.reason }}</span>
      <button v-if="isOpen" type="button" class="link" @click="choose">Another gauge <kbd>Shift G</kbd></button>
    </template>
    <button v-else-if="!isChoosing && isOpen && line.details.gaugeKind" type="button" class="link" data-test="name-gauge" @click="choose">
      Name the gauge ({{ line.details.gaugeKind }}) <kbd>Shift G</kbd>
    </button>
    <form
      v-if="isChoosing && isOpen"
      class="choose"
      @submit.prevent="submit"
      @keydown.page-down="emit('key', $event)"
      @keydown.page-up="emit('key', $event)"
    >
      <label :for="`gauge ${line.id}`">{{ line.details.gaugeKind ?? 'Gauge' }}: scan or type its code</label>
      <input
        :id="`gauge ${line.id}`"
        ref="field"
        v-model="code"
        class="m"
        autocomplete="off"
        :list="`gauges ${line.id}`"
        data-field="gauge"
        @keydown.esc.prevent="close"
      />
      <datalist :id="`gauges ${line.id}`">
        <option v-for="gauge in known" :key="gauge.id" :value="gauge.code">{{ gauge.name }}</option>
      </datalist>
      <template v-if="failure && isWaivable">
        <input
          ref="why"
          v-model="reason"
          class="why"
          list="gauge reasons"
          aria-label="Why it is used all the same"
          placeholder="why it is used all the same"
          data-field="gauge-reason"
          @keydown.esc.prevent="close"
        />
        <datalist id="gauge reasons">
          <option v-for="words in kept" :key="words" :value="words" />
        </datalist>
      </template>
      <v-btn type="submit" size="small" variant="outlined" color="primary" :loading="isBusy" :disabled="!isReady" data-test="take-gauge">{{
        failure && isWaivable ? 'Use it all the same' : 'Take it'
      }}</v-btn>
      <p v-if="failure" class="nonconforming" role="alert" data-test="gauge-refused">{{ refusal }}</p>
    </form>
  </section>
</template>

<script setup lang="ts">
import { describeObjection, type GaugeObjection } from '@nemawashi/core'
import { equip, type GaugeUse, type InspectionLine, record } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { useThing } from '../../shell/queries'
import { useReasons } from '../../shell/useReasons'
import { dayWords, isPast } from '../../format/format'
import InstrumentState from './InstrumentState.vue'
import type { Listening } from './useInstruments'

/** With which gauge the line is measured: scanned or typed once, refused or waived with a reason where something speaks against it. */
const { inspectionId, line, use, isMissing, isOpen, listening } = defineProps<{
  inspectionId: string
  line: InspectionLine
  use: GaugeUse | null
  /** Whether the line takes no value before one is chosen, or chosen anew. */
  isMissing: boolean
  isOpen: boolean
  /** How it stands with the instrument, where the gauge sends by itself. */
  listening: Listening | null
}>()
const emit = defineEmits<{ chosen: [gauges: GaugeUse[]]; closed: []; listen: []; key: [event: KeyboardEvent] }>()
const field = ref<HTMLInputElement>()
const why = ref<HTMLInputElement>()
const code = ref('')
const reason = ref('')
const failure = ref<Failure | null>(null)
const isBusy = ref(false)
const isAsked = ref(false)
const isChoosing = computed(() => isAsked.value || isMissing)
const isWaivable = computed(() => failure.value?.code === 'gauge_unfit' && failure.value.facts['isWaivable'] === true)
const isReady = computed(() => code.value.trim() !== '' && (!isWaivable.value || reason.value.trim().length >= 3))
const kept = useReasons('correction', () => isWaivable.value)
const { data } = useThing(
  () => equip.listGauges,
  () => (isChoosing.value && line.details.gaugeKind ? { query: { kind: line.details.gaugeKind, state: 'inUse' as const, limit: 200 } } : null),
)
const known = computed(() => data.value?.rows ?? [])
const against = (objections: readonly GaugeObjection[]) => objections.map((objection) => describeObjection(objection, dayWords)).join('; ')

/** Why it is refused: with days as people write them. */
const refusal = computed(() => {
  const { message = '', help = '', facts = {}, code: reason } = failure.value ?? {}
  if (reason !== 'gauge_unfit') return `${message} ${help}`
  return `${String(facts['gauge'])} ${against(facts['objections'] as GaugeObjection[])}. ${isWaivable.value ? '' : help}`
})

watch([() => line.id, () => use], reset)
// Another code is another gauge: what was said of the one before does not hold of it.
watch(code, () => (failure.value = null))
function reset(): void {
  isAsked.value = false
  code.value = ''
  reason.value = ''
  failure.value = null
}
/** Whether the next key belongs here: the line wants a gauge first. */
function focus(): boolean {
  if (!isChoosing.value || !isOpen) return false
  void nextTick(() => field.value?.focus())
  return true
}
function choose(): void {
  isAsked.value = true
  focus()
}
function close(): void {
  reset()
  emit('closed')
}
async function submit(): Promise<void> {
  if (isBusy.value || !isReady.value) return
  isBusy.value = true
  try {
    const body = { lineId: line.id, code: code.value.trim(), reason: isWaivable.value ? reason.value.trim() : '' }
    const { gauges } = await call(record.chooseGauge, { params: { id: inspectionId }, body })
    reset()
    emit('chosen', gauges)
  } catch (error) {
    failure.value = asFailure(error)
    void nextTick(() => (isWaivable.value ? why.value?.focus() : field.value?.select()))
  } finally {
    isBusy.value = false
  }
}
defineExpose({ focus, choose })
</script>

<style scoped>
.gauge {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.choose p {
  margin: 0;
  flex-basis: 100%;
}
.choose input {
  height: 36px;
  width: 150px;
  border: 2px solid var(--indigo);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
}
.choose .why {
  width: 260px;
}
@media (max-width: 1023px) {
  .choose input {
    height: 44px;
  }
}
</style>
