<template>
  <div class="row wide">
    <PickOne
      v-if="!isFixed"
      v-model="details.answerListId"
      :endpoint="define.answerLists.list"
      label="Take an answer list"
      is-clearable
      field="answerList"
      @chosen="take"
    />
    <v-btn v-if="!isFixed && details.answers.length < 40" variant="outlined" size="small" data-test="add-answer" @click="add">Add an answer</v-btn>
  </div>
  <AnswerRows v-model="details.answers" :is-fixed="isFixed" />
  <p v-if="errors['answers']" class="nonconforming small" role="alert">{{ errors['answers'] }}</p>
</template>

<script setup lang="ts">
import { type CharacteristicDetails, define } from '@nemawashi/contract'
import { call } from '../../shell/api'
import PickOne from '../../components/PickOne.vue'
import AnswerRows from './AnswerRows.vue'

/** The answers that a coded characteristic offers, taken from a kept list or its own; each says what it means for conformity. */
defineProps<{ isFixed: boolean; errors: Readonly<Record<string, string>> }>()
const details = defineModel<CharacteristicDetails>({ required: true })

async function take(row: { id: string } | null): Promise<void> {
  if (!row) return
  const { answers } = await call(define.answerLists.get, { params: { id: row.id } })
  details.value.answers = answers
}
function add(): void {
  const used = new Set(details.value.answers.map((answer) => answer.code))
  const code = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((letter) => !used.has(letter)) ?? ''
  details.value.answers = [...details.value.answers, { code, words: '', verdict: 'nonconforming', followUpPlanId: null }]
}
</script>

<style scoped>
.wide > :first-child {
  max-width: 360px;
  flex: 1;
}
</style>
