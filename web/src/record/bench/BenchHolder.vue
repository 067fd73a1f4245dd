<template>
  <div class="holder small" data-test="holder">
    <p>
      <b :class="assignment.holderId !== null && assignment.holderId !== me ? 'marginal' : ''">{{ holderWords }}</b><span class="soft">{{
        plannedWords
      }}</span>
    </p>
    <template v-if="mayTake">
      <button v-if="assignment.holderId === me" type="button" data-test="put-back" @click="back">Put it back</button>
      <button v-else type="button" data-test="take" @click="mine">{{ assignment.holderId === null ? 'Take it' : 'Take it over' }}</button>
    </template>
    <p v-if="failure" class="nonconforming" role="alert">{{ failure.message }}</p>
  </div>
</template>

<script setup lang="ts">
import { type Assignment, record } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import type { Failure } from '../../shell/api'
import { useSession } from '../../shell/session'
import { dayWords, momentOf } from '../../format/format'
import { useTaking } from '../queue/useTaking'

/** Who has an inspection, and for whom it is planned: taken, taken over and put back here. */
const { id, code, assignment } = defineProps<{ id: string; code: string; assignment: Assignment }>()
const emit = defineEmits<{ changed: [assignment: Assignment] }>()
const session = useSession()
const me = computed(() => session.person?.id ?? '')
const mayTake = session.may(record.takeInspection)
const since = computed(() => (assignment.heldSince === null ? '' : ` since ${momentOf(assignment.heldSince)}`))
const holderWords = computed(() =>
  assignment.holderId === me.value
    ? 'You have it'
    : assignment.holderName === null
      ? 'Nobody has it yet'
      : `${assignment.holderName} has it${since.value}`,
)
const plannedWords = computed(() => {
  const { personId, personName, day, minutes } = assignment
  const planned = personName === null ? '' : `; planned for ${personId === me.value ? 'you' : personName}${day === null ? '' : `, ${dayWords(day)}`}`
  return `${planned}${minutes === null ? '' : `; ${minutes} min`}.`
})
const failure = ref<Failure | null>(null)
const { take, unassign } = useTaking((problem) => (failure.value = problem))
function show(changed: Assignment | null): void {
  if (changed === null) return
  failure.value = null
  emit('changed', changed)
}
const mine = async () => show(await take(id, code))
const back = async () => show(await unassign(id, code))
</script>

<style scoped>
p {
  margin: 0;
}
button {
  border: 0;
  background: none;
  padding: 2px 0;
  color: var(--indigo);
  font: 600 13px var(--words);
  cursor: pointer;
}
</style>
