<template>
  <table class="plain answers" aria-label="Answers">
    <thead>
      <tr>
        <th>key</th>
        <th>answer</th>
        <th>means</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(answer, i) in answers" :key="i">
        <td>
          <input
            :value="answer.code"
            class="m code"
            :readonly="isFixed"
            maxlength="12"
            :aria-label="`key of answer ${i + 1}`"
            @input="set(i, { code: text($event) })"
          />
        </td>
        <td>
          <input
            :value="answer.words"
            class="words"
            :readonly="isFixed"
            maxlength="120"
            :aria-label="`words of answer ${i + 1}`"
            @input="set(i, { words: text($event) })"
          />
        </td>
        <td>
          <MarkSign :mark="answer.verdict === 'neither' ? 'notJudged' : answer.verdict" />
          <select
            :value="answer.verdict"
            :disabled="isFixed"
            :aria-label="`meaning of answer ${i + 1}`"
            @change="set(i, { verdict: text($event) as ListAnswer['verdict'] })"
          >
            <option v-for="verdict in answerVerdicts" :key="verdict">{{ verdict }}</option>
          </select>
        </td>
        <td>
          <button v-if="!isFixed" type="button" :aria-label="`Take answer ${i + 1} out`" @click="answers = answers.filter((_, at) => at !== i)">
            ✕
          </button>
        </td>
      </tr>
      <tr v-if="answers.length === 0">
        <td colspan="4" class="soft small">No answer yet. At least two: what conforms, and what does not.</td>
      </tr>
    </tbody>
  </table>
</template>

<script setup lang="ts">
import type { ListAnswer } from '@nemawashi/contract'
import { answerVerdicts } from '@nemawashi/core'
import MarkSign from '../pieces/MarkSign.vue'

/** A list of answers: the key that gives it on the bench, its words, and what it means. */
defineProps<{ isFixed: boolean }>()
const answers = defineModel<ListAnswer[]>({ required: true })
const text = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value
function set(at: number, change: Partial<ListAnswer>): void {
  answers.value = answers.value.map((answer, i) => (i === at ? { ...answer, ...change } : answer))
}
</script>

<style scoped>
.answers {
  max-width: 640px;
}
input,
select {
  height: 32px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
}
.code {
  width: 64px;
}
.words {
  width: 280px;
}
button {
  border: 0;
  background: none;
  color: var(--indigo);
  cursor: pointer;
}
</style>
