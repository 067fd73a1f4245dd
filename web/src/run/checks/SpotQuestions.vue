<template>
  <form v-if="inspection && isOpen(inspection.state)" class="spot" data-test="spot" @submit.prevent="send">
    <p class="small">
      <b>{{ inspection.planName }}</b> <span class="soft">{{ inspection.code }}, answered here</span>
      <span v-if="inspection.isGate" class="hold">gate</span>
    </p>
    <template v-if="!isQuick">
      <p class="small">
        <span v-for="line in inspection.lines" :key="line.id"
          >· {{ line.name }} <b class="m">n {{ line.sampleSize }}</b
          >&ensp;</span
        >
      </p>
      <div v-if="mayAnswer">
        <v-btn size="small" color="primary" :to="`/record/${inspection.id}`" data-test="record-it">Record it</v-btn>
      </div>
    </template>
    <fieldset v-for="line in isQuick ? inspection.lines : []" :key="line.id" :disabled="!mayAnswer">
      <legend>
        {{ line.name }}<span v-if="line.acceptableState" class="soft">: {{ line.acceptableState }}</span>
        <span v-if="line.sampleSize > 1" class="soft"> ({{ line.sampleSize }} pieces)</span>
        <span v-if="!line.isRequired" class="soft"> – may be left out</span>
      </legend>
      <label v-for="of in choices" :key="of.words">
        <input v-model="answers[line.id]" type="radio" :name="line.id" :value="of.isConforming" :data-test="of.test" />
        <MarkSign :mark="of.mark" /> {{ line.sampleSize > 1 ? of.ofMany : of.words }}
      </label>
    </fieldset>
    <ErrorNote :failure="saver.failure.value" />
    <div v-if="mayAnswer && isQuick" class="row">
      <v-btn type="submit" size="small" color="primary" :disabled="!isAnswered" :loading="saver.isBusy.value" data-test="answer">Answer</v-btn>
      <router-link class="small" :to="`/record/${inspection.id}`">piece by piece, at the bench</router-link>
    </div>
  </form>
</template>

<script setup lang="ts">
import { isOpen } from '@nemawashi/core'
import { record } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import ErrorNote from '../../components/ErrorNote.vue'
import MarkSign from '../../components/MarkSign.vue'
import { mayRecord } from '../../composables/mayRecord'
import { useSaver } from '../../composables/useSaver'

/** What is answered beside the goods, by whoever receives them or works on them. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ answered: [] }>()
const saver = useSaver()
const session = useSession()
const { data: inspection, reload } = useThing(record.getInspection, () => ({ params: { id } }))
const mayAnswer = computed(() => mayRecord(inspection.value, session.person))
/** Yes or no answers it here; what is measured or counted is recorded piece by piece. */
const isQuick = computed(() => inspection.value?.lines.every(({ kind }) => kind === 'judged') ?? false)
const choices = [
  { isConforming: true, words: 'yes, so it is', ofMany: 'all of them are so', mark: 'conforming', test: 'spot-yes' },
  { isConforming: false, words: 'no', ofMany: 'none of them is so', mark: 'nonconforming', test: 'spot-no' },
] as const
const answers = ref<Record<string, boolean>>({})
const isAnswered = computed(() => inspection.value?.lines.every((line) => !line.isRequired || answers.value[line.id] !== undefined) ?? false)
async function send(): Promise<void> {
  const current = inspection.value
  if (!current) return
  const body = { version: current.version, answers: Object.entries(answers.value).map(([lineId, isConforming]) => ({ lineId, isConforming })) }
  const done = await saver.save(async () => {
    const { finding, code, advice } = await call(record.answerOnSpot, { params: { id }, body })
    notify(finding.verdict === 'acceptable' ? `${code} is answered: acceptable.` : `${code} is not acceptable.${advice ? ` ${advice}` : ''}`)
    emit('answered')
  })
  if (!done) await reload()
}
</script>

<style scoped>
.spot {
  border-left: 4px solid var(--indigo);
  background: var(--paper);
  padding: 8px 14px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.spot p {
  margin: 0;
}
fieldset {
  border: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
  cursor: pointer;
}
</style>
