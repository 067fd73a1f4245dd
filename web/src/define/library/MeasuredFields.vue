<template>
  <v-text-field
    v-if="!isFixed"
    v-model="typed"
    label="Tolerance, as on the drawing"
    placeholder="12.5 ±0.05    8 +0.02/-0.01    25 H7    15.9 to 16.1    ≥ 145    ≤ 0.8 µm"
    class="mono"
    :error-messages="typedError"
    :hint="understood"
    persistent-hint
    data-field="tolerance"
  />
  <p v-if="!isFixed && typedError && pointed" class="pointer m small" aria-hidden="true">
    {{ pointed.before }}<b>{{ pointed.at }}</b>
  </p>
  <div class="limits">
    <v-text-field
      v-for="{ key, label } in limitFields"
      :key="key"
      v-model="fields[key]"
      :label="label"
      class="mono"
      :error-messages="errors[key]"
      :readonly="isFixed"
      :data-field="key"
    />
    <v-autocomplete
      v-model="fields.unit"
      label="Unit"
      :items="offered"
      item-title="symbol"
      :item-props="({ name }) => ({ subtitle: name })"
      :custom-filter="isMeant"
      item-value="symbol"
      :error-messages="errors['unit']"
      :readonly="isFixed"
      data-field="unit"
    />
    <v-text-field
      v-model="fields.resolution"
      label="Resolution"
      class="mono"
      :error-messages="errors['resolution']"
      :readonly="isFixed"
      data-field="resolution"
    />
  </div>
  <div class="live" aria-live="polite" data-test="live">
    <template v-if="live.limits">
      <ToleranceStrip :limits="live.limits" :width="480" :height="28" has-numbers />
      <p class="small" data-test="conforms">{{ live.words }}</p>
      <p v-if="converted" class="small soft" data-test="converted">{{ converted }}</p>
      <p v-if="live.isCoarse" class="small marginal">
        △ A resolution of {{ fields.resolution }} {{ fields.unit }} is coarser than a tenth of the tolerance (common practice): readings near a limit
        decide by the last step.
      </p>
    </template>
    <p v-else class="soft small">{{ live.words }}</p>
  </div>
  <BandFields
    v-model="fields.details.band"
    :is-fixed="isFixed"
    :unit="fields.unit ?? ''"
    :step="fields.resolution ?? '0.01'"
    :error="errors['band']"
  />
  <div class="row wide">
    <v-select v-model="rounds" label="A reading is compared" :items="roundings" :readonly="isFixed" data-field="rounds" />
    <v-text-field
      v-if="fields.details.rounding !== null"
      v-model="fields.details.rounding"
      label="Rounded to"
      class="mono"
      :readonly="isFixed"
      :error-messages="errors['rounding']"
      data-field="rounding"
    />
    <v-select v-model="fields.details.recording" label="Recorded" :items="recordings" :readonly="isFixed" data-field="recording" />
  </div>
</template>

<script setup lang="ts">
import type { CharacteristicFields } from '@nemawashi/contract'
import {
  bandEdges,
  bandWords,
  checkLimits,
  convertUnit,
  CoreError,
  isResolutionFine,
  parseDecimal,
  parseTolerance,
  type MeasureUnit,
  type Acceptance,
  type Decimal,
} from '@nemawashi/core'
import { computed, ref, watch } from 'vue'
import { useMeasureUnits } from '../../composables/useMeasureUnits'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import BandFields from './BandFields.vue'

/** What a measured value is compared with: typed as the drawing has it, drawn while it is typed, told in full. */
defineProps<{ isFixed: boolean; errors: Readonly<Record<string, string>> }>()
const fields = defineModel<CharacteristicFields>({ required: true })
const limitFields = [
  { key: 'lower', label: 'Lower limit' },
  { key: 'nominal', label: 'Nominal' },
  { key: 'upper', label: 'Upper limit' },
] as const

const { known, inUse } = useMeasureUnits()
/** Those in use, and the one that is there already. */
const offered = computed(() => known.value.filter((unit) => inUse.value.includes(unit) || unit.symbol === fields.value.unit))
/** By its symbol or its name. */
const isMeant = (_: string, query: string, item?: { raw: MeasureUnit }) =>
  `${item?.raw.symbol} ${item?.raw.name}`.toLowerCase().includes(query.toLowerCase())
const typed = ref(fields.value.details.typed ?? '')
const typedError = ref('')
const understood = ref('')
const pointed = ref<{ before: string; at: string } | null>(null)
watch(
  () => fields.value.details.typed,
  (kept) => {
    if (kept !== null && kept !== typed.value.trim()) typed.value = kept
    if (kept === null && understood.value !== '') typed.value = understood.value = ''
  },
)
watch(typed, (text) => {
  typedError.value = understood.value = ''
  pointed.value = null
  if (text.trim() === '') return
  try {
    const { reading, unit, ...limits } = parseTolerance(text, known.value)
    Object.assign(fields.value, limits)
    if (unit !== null) fields.value.unit = unit
    fields.value.details.typed = text.trim()
    understood.value = `understood: ${reading}`
    const places = Math.max(...Object.values(limits).map((value) => (value?.split('.')[1] ?? '').length))
    const current = (fields.value.resolution?.split('.')[1] ?? '').length
    if (places > current) fields.value.resolution = `0.${'0'.repeat(places - 1)}1`
  } catch (error) {
    typedError.value = error instanceof CoreError ? error.message : String(error)
    const place = error instanceof CoreError ? error.facts['position'] : null
    if (typeof place === 'number') pointed.value = { before: text.slice(0, place), at: text.slice(place) || '▁' }
  }
})

const decimal = (text: string | null): Decimal | null => (text === null || text.trim() === '' ? null : parseDecimal(text))
const live = computed<{ limits: Acceptance | null; words: string; isCoarse: boolean }>(() => {
  const { nominal, lower, upper, resolution, unit, details } = fields.value
  if (!lower && !upper) return { limits: null, words: 'Type a tolerance above, or the limits; the strip shows what conforms.', isCoarse: false }
  try {
    const limits = { nominal: decimal(nominal), lower: decimal(lower), upper: decimal(upper) }
    const step = parseDecimal(resolution ?? '')
    checkLimits(limits, step)
    if (details.band) bandEdges(limits, details.band)
    const rounded = details.rounding === null ? '' : ` A reading is first rounded to ${details.rounding} (ASTM E29, rounding method).`
    return {
      limits: { ...limits, band: details.band },
      words: bandWords(limits, details.band, unit ?? '') + rounded,
      isCoarse: !isResolutionFine(limits.lower, limits.upper, step),
    }
  } catch (error) {
    return { limits: null, words: error instanceof Error ? error.message : '', isCoarse: false }
  }
})
/** The limits in the other system of measurement, where there is one. */
const others: Readonly<Record<string, string>> = {
  mm: 'in',
  in: 'mm',
  N: 'lbf',
  lbf: 'N',
  MPa: 'psi',
  psi: 'MPa',
  '°C': '°F',
  '°F': '°C',
  'N·m': 'lbf·ft',
  'lbf·ft': 'N·m',
  g: 'oz',
  oz: 'g',
  kg: 'lb',
  lb: 'kg',
}
const converted = computed(() => {
  const { unit, lower, upper } = fields.value
  const other = others[unit ?? '']
  if (!other || !live.value.limits || !known.value.some(({ symbol }) => symbol === other)) return ''
  const show = (value: string | null) =>
    value === null ? null : Number(Number(convertUnit(parseDecimal(value), unit ?? '', other, null, known.value)).toPrecision(6)).toString()
  const [low, high] = [show(lower || null), show(upper || null)]
  return `Converted: ${low !== null && high !== null ? `${low} to ${high}` : low !== null ? `at least ${low}` : `at most ${high}`} ${other}. Readings may be entered in either unit; both are kept.`
})

const roundings = [
  { title: 'as it stands (absolute method)', value: false },
  { title: 'rounded first (rounding method)', value: true },
]
const rounds = computed({
  get: () => fields.value.details.rounding !== null,
  set: (value: boolean) => (fields.value.details.rounding = value ? (fields.value.resolution ?? '0.01') : null),
})
const recordings = [
  { title: 'piece by piece', value: 'pieces' },
  { title: 'as a summary (n, mean, s, …)', value: 'summary' },
]
</script>

<style scoped>
.limits {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 10px;
}
.wide > * {
  flex: 1;
}
.live {
  min-height: 84px;
  padding: 4px 12px 0;
  overflow: hidden;
}
.live p {
  margin: 4px 0 0;
}
.live svg + p {
  margin-top: 26px;
}
.pointer {
  margin: -6px 0 0 12px;
  white-space: pre;
  color: var(--soft);
}
.pointer b {
  color: var(--nonconforming);
  text-decoration: underline wavy;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
