<template>
  <form
    v-for="spot in spots"
    :key="`${spot.containerId} ${spot.placeId} ${spot.standing} ${spot.sublot}`"
    class="away row"
    @submit.prevent="go(spot)"
  >
    <span class="grow"
      ><b class="m">{{ figureOf(spot.quantity, unit) }}</b> {{ standingWords[spot.standing]
      }}{{ spot.containerLabel ? ` in ${spot.containerLabel}` : '' }}, {{ spot.placeName }}</span
    >
    <PickOne v-model="target" class="target" :endpoint="define.places.list" label="Put away to" :filter="isStore" field="toPlace" />
    <span v-if="waits(spot)" class="hold small" data-test="waits">its gate is closed</span>
    <v-btn
      type="submit"
      color="primary"
      :variant="waits(spot) ? 'text' : 'outlined'"
      :disabled="!target"
      :loading="saver.isBusy.value"
      data-test="put-away"
      >Put away</v-btn
    >
  </form>
  <div v-if="spots.length > 1" class="row">
    <v-btn variant="text" size="small" :disabled="!target" :loading="saver.isBusy.value" data-test="put-all-away" @click="goAll"
      >Put all {{ spots.length }} away there</v-btn
    >
  </div>
  <ErrorNote :failure="saver.failure.value" />
</template>

<script setup lang="ts">
import { standingWords } from '@nemawashi/core'
import { type BalanceRow, type Place, define, run } from '@nemawashi/contract'
import { ref, watch } from 'vue'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'
import ErrorNote from '../../components/ErrorNote.vue'
import { figureOf } from '../../format/format'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'

/** Moves pieces of a lot from where they wait to a store; refused with its reason while a gate is closed. */
const {
  lotId,
  spots,
  usual,
  unit,
  isGateClosed = false,
} = defineProps<{ lotId: string; spots: readonly BalanceRow[]; usual: string | null; unit: string; isGateClosed?: boolean }>()
const emit = defineEmits<{ moved: [] }>()
const saver = useSaver()
const target = ref<string | null>(null)
const isStore = (row: Place) => row.purpose === 'store'
watch(
  () => usual,
  (place) => (target.value ??= place),
  { immediate: true },
)

/** What is on hold behind a gate would be refused, with the reason: it can be asked, and is not what the page leads to. */
const waits = ({ standing }: BalanceRow) => isGateClosed && standing === 'onHold'
const heldOrFree = ({ standing }: BalanceRow) => (standing === 'onHold' ? ('onHold' as const) : ('released' as const))
async function put(spot: BalanceRow): Promise<void> {
  const { containerId, placeId: fromPlaceId, quantity, sublot } = spot
  const body = { containerId, fromPlaceId, quantity, sublot, toPlaceId: target.value ?? '', standing: heldOrFree(spot) }
  await call(run.putAway, { params: { id: lotId }, body })
}
async function go(spot: BalanceRow): Promise<void> {
  await saver.save(async () => {
    await put(spot)
    notify(`${figureOf(spot.quantity, unit)} put away${spot.standing === 'onHold' ? ', on hold' : ''}.`)
    emit('moved')
  })
}
/** One after another; the first that a gate keeps back ends it, and what is away by then is shown. */
async function goAll(): Promise<void> {
  let away = 0
  await saver.save(async () => {
    for (const spot of spots) {
      await put(spot)
      away += spot.quantity
    }
  })
  if (away === 0) return
  notify(`${figureOf(away, unit)} put away.`)
  emit('moved')
}
</script>

<style scoped>
.away {
  border-bottom: 1px solid var(--rule);
  padding-bottom: 8px;
}
.target {
  max-width: 260px;
}
</style>
