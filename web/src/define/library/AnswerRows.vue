<template>
  <table class="plain answers" aria-label="Answers">
    <thead>
      <tr>
        <th>key</th>
        <th>answer</th>
        <th>means</th>
        <th>then also inspect by</th>
        <th><span class="sr-only">take it out</span></th>
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
          <select
            :value="answer.followUpPlanId ?? ''"
            :disabled="isFixed"
            class="then"
            :aria-label="`plan that answer ${i + 1} asks for`"
            @change="set(i, { followUpPlanId: text($event) || null })"
          >
            <option value="">nothing more</option>
            <option v-for="plan in plansFor(answer)" :key="plan.id" :value="plan.id">{{ plan.words }}</option>
          </select>
        </td>
        <td>
          <TakeOut v-if="!isFixed" :name="`answer ${i + 1}`" @click="answers = answers.filter((_, at) => at !== i)" />
        </td>
      </tr>
      <tr v-if="answers.length === 0">
        <td colspan="5" class="soft small">No answer yet. At least two: what conforms, and what does not.</td>
      </tr>
    </tbody>
  </table>
</template>

<script setup lang="ts">
import { type ListAnswer, define } from '@nemawashi/contract'
import { answerVerdicts } from '@nemawashi/core'
import { onMounted, ref } from 'vue'
import { call } from '../../shell/api'
import MarkSign from '../../components/MarkSign.vue'
import TakeOut from '../../components/TakeOut.vue'

/** A list of answers: the key that gives it on the bench, its words, what it means, and the plan that it asks for in addition. */
defineProps<{ isFixed: boolean }>()
const answers = defineModel<ListAnswer[]>({ required: true })
const text = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value
const plans = ref<{ id: string; words: string }[]>([])
onMounted(async () => {
  const { rows } = await call(define.listPlans, { query: { state: 'released', limit: 200 } })
  plans.value = rows.map(({ id, code, name }) => ({ id, words: `${code} ${name}` }))
})
/** A plan that is no longer among the released ones still shows that something is asked for. */
function plansFor({ followUpPlanId }: ListAnswer): { id: string; words: string }[] {
  const isKnown = followUpPlanId === null || plans.value.some(({ id }) => id === followUpPlanId)
  return isKnown ? plans.value : [{ id: followUpPlanId, words: 'a plan that is not released' }, ...plans.value]
}
function set(at: number, change: Partial<ListAnswer>): void {
  answers.value = answers.value.map((answer, i) => (i === at ? { ...answer, ...change } : answer))
}
</script>

<style scoped>
.answers {
  max-width: 760px;
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
.answers td {
  white-space: nowrap;
}
.code {
  width: 64px;
}
.words {
  width: 180px;
}
.then {
  max-width: 190px;
}
</style>
