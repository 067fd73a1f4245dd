<template>
  <form class="form stack" @submit.prevent="submit">
    <DefinitionHead
      :title="isNew ? 'New characteristic' : `${code} ${fields.name}`"
      :can-change="isEngineer && entity !== null"
      :has-draft="hasDraft"
      :has-released="hasReleased"
      :is-changed="isChanged"
      :is-busy="saver.isBusy.value"
      @release="step(define.releaseCharacteristic, 'released')"
      @revise="step(define.reviseCharacteristic, 'has a draft')"
      @retire="step(define.retireCharacteristic, 'retired')"
    />
    <RevisionBar v-if="entity" :revisions="entity.revisions" :shown-id="shown?.id ?? null" @choose="chosen = $event" />
    <ErrorNote :failure="saver.note.value" />

    <div class="row top">
      <v-text-field
        v-if="isNew"
        v-model="code"
        v-first-focus
        label="Code"
        style="max-width: 160px"
        :error-messages="errors['code']"
        data-field="code"
      />
      <v-text-field v-model="fields.name" label="Name" class="grow" :error-messages="errors['name']" :readonly="isFixed" data-field="name" />
      <v-select v-model="fields.class" label="Class" :items="classes" style="max-width: 140px" :readonly="isFixed" data-field="class" />
    </div>
    <v-radio-group v-if="isNew" v-model="fields.kind" inline label="Answered by">
      <v-radio value="measured" label="measuring a value" />
      <v-radio value="judged" label="judging against a stated state" />
    </v-radio-group>

    <template v-if="fields.kind === 'measured'">
      <v-text-field
        v-if="!isFixed"
        v-model="typed"
        label="Tolerance, as on the drawing"
        placeholder="0.3 ± 0.05    8 +0.02/-0.01    0.25 to 0.35    ≥ 145    ≤ 0.8"
        class="mono"
        :error-messages="typedError"
        data-field="tolerance"
      />
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
          :items="units"
          item-title="symbol"
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
          <p class="small">
            Conforms: <b>{{ limitsWords({ ...live.limits, unit: fields.unit }) }}</b>, the limits themselves included.
          </p>
        </template>
        <p v-else class="soft small">{{ live.words }}</p>
      </div>
    </template>
    <v-textarea
      v-else
      v-model="fields.acceptableState"
      label="Acceptable state, in words"
      :error-messages="errors['acceptableState']"
      :readonly="isFixed"
      data-field="acceptableState"
    />

    <v-text-field v-model="fields.method" label="Method and gauge kind" :readonly="isFixed" data-field="method" />
    <v-textarea v-model="fields.instruction" label="Instruction for the inspector" :readonly="isFixed" data-field="instruction" />
    <div v-if="isEngineer && !isFixed" class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">{{
        isNew ? 'Save as draft' : 'Save the draft'
      }}</v-btn>
      <v-btn v-if="isChanged && !isNew" variant="text" @click="reset">Undo changes</v-btn>
    </div>
    <p v-if="entity?.usedIn.length" class="soft small">
      Asked for by {{ entity.usedIn.join(', ') }}. Plans follow the released revision; an open inspection keeps the one it was made from.
    </p>
    <StaleChange
      v-if="saver.isStale.value && saver.failure.value && theirs"
      :failure="saver.failure.value"
      :rows="compared"
      @keep="keepMine"
      @take="takeTheirs"
    />
  </form>
</template>

<script setup lang="ts">
import { vFirstFocus } from '../frame/firstFocus'
import { checkLimits, CoreError, parseDecimal, parseTolerance, units, type Limits } from '@nemawashi/core'
import { classes, endpoints, type Characteristic, type CharacteristicFields } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import ErrorNote from '../pieces/ErrorNote.vue'
import { limitsWords } from '../pieces/format'
import StaleChange from '../pieces/StaleChange.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import DefinitionHead from './DefinitionHead.vue'
import RevisionBar from './RevisionBar.vue'
import { useDefinition } from './useDefinition'

/** Defines a measured or judged characteristic; the strip shows what is being defined while it is typed. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ saved: [id: string] }>()
const { define } = endpoints

const blank: CharacteristicFields = {
  name: '',
  kind: 'measured',
  class: 'major',
  method: '',
  instruction: '',
  nominal: null,
  lower: null,
  upper: null,
  unit: 'mm',
  resolution: '0.01',
  acceptableState: null,
}
const limitFields = [
  { key: 'lower', label: 'Lower limit' },
  { key: 'nominal', label: 'Nominal' },
  { key: 'upper', label: 'Upper limit' },
] as const
function fieldsOf(revision: CharacteristicFields | null): CharacteristicFields {
  if (!revision) return { ...blank }
  return Object.fromEntries(Object.keys(blank).map((key) => [key, revision[key as keyof CharacteristicFields]])) as CharacteristicFields
}
const {
  isEngineer,
  saver,
  isNew,
  entity,
  theirs,
  code,
  chosen,
  shown,
  hasDraft,
  hasReleased,
  isFixed,
  edited: fields,
  isChanged,
  reset,
  submit,
  step,
  keepMine,
  takeTheirs,
} = useDefinition<Characteristic, CharacteristicFields>({
  id,
  load: () => call(define.getCharacteristic, { params: { id } }),
  create: (newCode) => call(define.createCharacteristic, { body: { code: newCode, ...bodyOf() } }),
  update: (version) => call(define.updateCharacteristic, { params: { id }, body: { ...bodyOf(), version } }),
  editedOf: (_characteristic, revision) => fieldsOf(revision as CharacteristicFields | null),
  saved: (savedId) => emit('saved', savedId),
})
const errors = saver.fieldErrors
useCrumbs(() => [
  { words: 'Define', to: '/define' },
  { words: 'Characteristics', to: '/define/characteristics' },
  { words: isNew ? 'New' : code.value },
])
watch(shown, () => (typed.value = ''))

const typed = ref('')
const typedError = ref('')
watch(typed, (text) => {
  typedError.value = ''
  if (text.trim() === '') return
  try {
    const limits = parseTolerance(text)
    Object.assign(fields.value, limits)
    const places = Math.max(...Object.values(limits).map((value) => (value?.split('.')[1] ?? '').length))
    const current = (fields.value.resolution?.split('.')[1] ?? '').length
    if (places > current) fields.value.resolution = `0.${'0'.repeat(places - 1)}1`
  } catch (error) {
    typedError.value = error instanceof CoreError ? error.message : String(error)
  }
})

const live = computed<{ limits: Limits | null; words: string }>(() => {
  const { nominal, lower, upper, resolution } = fields.value
  if (!lower && !upper) return { limits: null, words: 'Type a tolerance above, or the limits; the strip shows what conforms.' }
  try {
    const decimal = (text: string | null) => (text === null || text.trim() === '' ? null : parseDecimal(text))
    const limits = { nominal: decimal(nominal), lower: decimal(lower), upper: decimal(upper) }
    checkLimits(limits, parseDecimal(resolution ?? ''))
    return { limits, words: '' }
  } catch (error) {
    return { limits: null, words: error instanceof Error ? error.message : '' }
  }
})

function bodyOf(): CharacteristicFields {
  const empty = (text: string | null) => (text === null || text.trim() === '' ? null : text.trim())
  const { nominal, lower, upper, resolution, acceptableState } = fields.value
  return {
    ...fields.value,
    nominal: empty(nominal),
    lower: empty(lower),
    upper: empty(upper),
    resolution: empty(resolution),
    acceptableState: empty(acceptableState),
  }
}
const compared = computed(() => {
  const other = theirs.value?.revisions[0]
  return Object.keys(blank).map((key) => ({
    label: key,
    mine: String(fields.value[key as keyof CharacteristicFields] ?? ''),
    theirs: String(other?.[key as keyof CharacteristicFields] ?? ''),
  }))
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 820px;
}
.limits {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 10px;
}
.live {
  min-height: 84px;
  padding: 4px 12px 0;
  overflow: hidden;
}
.live p {
  margin: 26px 0 0;
}
.live p.soft {
  margin-top: 4px;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
