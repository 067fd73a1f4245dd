<template>
  <div v-for="(pick, i) in picks" :key="pick.key" class="row top" :data-line="i">
    <PickOne
      v-model="pick.id"
      class="grow"
      :endpoint="run.listPickable"
      :title-of="pickableWords"
      :label="`Lot ${i + 1}: released, in a store`"
      :initial="pick.from ? { id: pick.from.id, title: `${pick.from.code} · ${pick.from.name}` } : null"
      :error="errors[`picks.${i}.lotId`] ?? errors[`picks.${i}.placeId`]"
      is-needed
      field="lot"
      @chosen="choose(pick, $event)"
    />
    <v-text-field
      v-model="pick.quantity"
      class="number"
      label="Quantity"
      inputmode="decimal"
      :hint="hintOf(pick)"
      :error-messages="errors[`picks.${i}.quantity`]"
      persistent-hint
      aria-required="true"
      data-field="quantity"
    />
    <v-btn v-if="picks.length > 1" variant="text" size="small" @click="picks.splice(i, 1)">Take it out</v-btn>
  </div>
  <div v-if="others.length > 0" class="row">
    <v-btn variant="text" size="small" data-test="take-others" @click="takeOthers"
      >Take the other {{ others.length }} of {{ others[0]?.code }} too</v-btn
    >
  </div>
</template>

<script setup lang="ts">
import { pickableWords } from '../goods/pickableWords'
import { quantityText } from '@nemawashi/core'
import { type Pickable, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../../shell/api'
import { amount, figureOf } from '../../format/format'
import PickOne from '../../components/PickOne.vue'
import { blankPick, maxPicks, type Pick } from './picks'

/** Which lots are taken from where, and how much of each. */
const { errors, isUnplanned = false } = defineProps<{
  errors: Readonly<Record<string, string | undefined>>
  /** What is picked was not planned: what plans want is said beside it. */
  isUnplanned?: boolean
}>()
const picks = defineModel<Pick[]>({ required: true })
function choose(pick: Pick, from: Pickable | null): void {
  // A lot that was suggested is not in the list that was asked for.
  if (from === null && pick.id !== null && pick.id === pick.from?.id) return
  pick.from = from
  void lookForOthers(from)
  if (from && pick.quantity === '') pick.quantity = quantityText(from.quantity, from.unit)
}
/** Other containers or serial numbers of the lot that was chosen last, free and not chosen yet. */
const ofLot = ref<readonly Pickable[]>([])
const others = computed(() => ofLot.value.filter(({ id }) => !picks.value.some((pick) => pick.id === id)))
async function lookForOthers(from: Pickable | null): Promise<void> {
  ofLot.value = []
  if (from === null || from.containerId === null) return
  const { rows } = await call(run.listPickable, { query: { q: from.code, limit: maxPicks } }).catch(() => ({ rows: [] }))
  ofLot.value = rows.filter(({ lotId }) => lotId === from.lotId).slice(0, maxPicks - picks.value.length)
}
function takeOthers(): void {
  picks.value.push(...others.value.map((from) => ({ ...blankPick(), id: from.id, from, quantity: quantityText(from.quantity, from.unit) })))
}
const hintOf = ({ from }: Pick) =>
  from
    ? `of ${amount(from.quantity, from.unit)}${isUnplanned && from.planned > 0 ? `; planned dispatches want ${figureOf(from.planned, from.unit)} of ${from.partCode}` : ''}`
    : ''
</script>

<style scoped>
.number {
  max-width: 140px;
}
</style>
