<template>
  <v-text-field
    v-model="model"
    v-first-focus="isFirst"
    :label="label"
    :name="name"
    :type="isSeen ? 'text' : 'password'"
    :autocomplete="isNew ? 'new-password' : 'current-password'"
    :error-messages="errorMessages"
    :aria-required="isNeeded"
    :data-field="field"
    spellcheck="false"
    hide-details="auto"
    @focus="isNew && void weigh()"
  >
    <template #append-inner>
      <button type="button" class="look" :aria-pressed="isSeen" :aria-label="`${isSeen ? 'Hide' : 'Show'}: ${label}`" @click="isSeen = !isSeen">
        {{ isSeen ? 'hide' : 'show' }}
      </button>
    </template>
    <template v-if="isNew && grade" #details>
      <div class="meter" data-test="meter" role="status">
        <span v-for="i in 4" :key="i" class="step" :class="{ on: i <= grade.steps, enough: grade.isEnough }" />
        <span class="small" :class="grade.isEnough ? 'conforming' : 'soft'">{{ grade.words }}</span>
      </div>
      <div v-if="errorMessages" class="small nonconforming">{{ errorMessages }}</div>
    </template>
  </v-text-field>
</template>

<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { vFirstFocus } from '../shell/firstFocus'
import { gradeOf, type Weigh } from './grade'

/** A password as it is typed: hidden unless somebody wants to see it; a new one with how hard it is to guess. */
const model = defineModel<string>({ required: true })
const {
  label,
  isNew = false,
  isFirst = false,
  isNeeded = false,
  own = [],
  errorMessages = '',
  name,
  field,
} = defineProps<{
  label: string
  isNew?: boolean
  isFirst?: boolean
  isNeeded?: boolean
  /** The person's own names: the first that others would try. */
  own?: readonly string[]
  errorMessages?: string | undefined
  name?: string
  field?: string
}>()
const isSeen = ref(false)
/** The words that passwords are weighed by are many; they come when somebody begins to choose one. */
const weighing = shallowRef<Weigh | null>(null)
async function weigh(): Promise<void> {
  weighing.value ??= (await import('@nemawashi/contract/guessable')).weighPassword
}
const grade = computed(() => (weighing.value === null || model.value === '' ? null : gradeOf(weighing.value, model.value, own)))
</script>

<style scoped>
.look {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px var(--words);
  padding: 4px;
  cursor: pointer;
}
.meter {
  display: flex;
  align-items: center;
  gap: 4px;
  flex-wrap: wrap;
}
.step {
  width: 28px;
  height: 5px;
  border-radius: 3px;
  background: var(--rule);
}
.step.on {
  background: var(--marginal);
}
.step.on.enough {
  background: var(--conforming);
}
</style>
