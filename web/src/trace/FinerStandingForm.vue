<template>
  <section v-if="(mayGive && offered.length > 0) || given.length > 0" class="finer stack" aria-labelledby="finer-title">
    <h2 id="finer-title" class="small soft">Restriction</h2>
    <p v-for="spot in given" :key="`${spot.containerId} ${spot.placeId} ${spot.standing}`" data-test="finer">
      <b>{{ spot.finer }}</b> <span class="soft">{{ figureOf(spot.quantity, unit) }} {{ standingWords[spot.standing] }}{{ labelOf(spot) }}</span>
    </p>
    <form v-if="mayGive && isOpen" class="stack" @submit.prevent="give">
      <div class="row top">
        <v-select v-model="finerId" class="grow" :items="choices" label="Restriction" :error-messages="errors['finerId']" data-field="finerId" />
        <v-select v-if="units.length > 1" v-model="containerId" class="grow" :items="units" label="Which pieces" data-field="finerOf" />
        <v-text-field v-model="reason" class="grow" label="Why" :error-messages="errors['reason']" aria-required="true" data-field="finerReason" />
        <v-btn type="submit" color="primary" variant="outlined" :loading="saver.isBusy.value">Say so</v-btn>
      </div>
      <p v-if="allowed" class="small soft" data-test="finer-allows">{{ allowed }}</p>
      <ErrorNote :failure="saver.note.value" />
    </form>
    <div v-else-if="mayGive && offered.length > 0">
      <v-btn variant="text" size="small" data-test="give-finer" @click="isOpen = true">{{
        given.length > 0 ? 'Change its restriction' : 'Restrict pieces of it'
      }}</v-btn>
    </div>
  </section>
</template>

<script setup lang="ts">
import { allowsStep, freeSteps, freeStepWords, standingWords } from '@nemawashi/core'
import { type BalanceRow, type FinerStanding, contain, define } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import { figureOf } from '../format/format'
import { unitChoices } from '../format/unitChoices'
import { useSaver } from '../composables/useSaver'

/** What the plant calls the standing of pieces more finely, which steps that allows, and who may say so. */
const { lotId, balances, unit } = defineProps<{ lotId: string; balances: readonly BalanceRow[]; unit: string }>()
const emit = defineEmits<{ given: [] }>()
const mayGive = useSession().may(contain.giveStanding)
const saver = useSaver()
const errors = saver.fieldErrors
const { data: page } = useThing(define.finerStandings.list, () => ({ query: { limit: 200 } }))
/** Those that its pieces could have: kinds of the standings that they are in. */
const offered = computed(() =>
  ((page.value?.rows ?? []) as FinerStanding[]).filter((finer) => finer.isActive && balances.some(({ standing }) => standing === finer.standing)),
)
const given = computed(() => balances.filter(({ finer }) => finer !== null))
const isOpen = ref(false)
const finerId = ref<string | null>(null)
const containerId = ref<string | null>(null)
const reason = ref('')
const choices = computed(() => [
  ...offered.value.map(({ id, name, standing }) => ({ value: id, title: `${name} (${standingWords[standing]})` })),
  ...(given.value.length > 0 ? [{ value: 'none', title: 'none: take it off' }] : []),
])
const units = computed(() => unitChoices(balances))
const allowed = computed(() => {
  const chosen = offered.value.find(({ id }) => id === finerId.value)
  if (!chosen) return ''
  const steps = freeSteps.filter((step) => allowsStep(chosen.standing, chosen, step)).map((step) => freeStepWords[step])
  const planning = chosen.countsForPlanning ? 'counts for planning' : 'does not count for planning'
  return `It may be ${steps.length > 0 ? steps.join(', ') : 'neither used, picked nor sent'}; it ${planning}.`
})
const labelOf = ({ containerLabel }: BalanceRow) => (containerLabel === null ? '' : `, ${containerLabel}`)

async function give(): Promise<void> {
  const chosen = finerId.value
  if (chosen === null) return
  const done = await saver.save(async () => {
    const body = { containerId: containerId.value, finerId: chosen === 'none' ? null : chosen, reason: reason.value }
    await call(contain.giveStanding, { params: { id: lotId }, body })
    notify(chosen === 'none' ? 'Taken off.' : 'Said, with its reason.')
  })
  if (!done) return
  isOpen.value = false
  finerId.value = null
  reason.value = ''
  emit('given')
}
</script>

<style scoped>
.finer {
  border-left: 4px solid var(--rule);
  padding: 2px 12px;
}
.finer h2,
.finer p {
  margin: 0;
}
</style>
