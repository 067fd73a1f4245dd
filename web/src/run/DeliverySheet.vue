<template>
  <div v-if="delivery" class="sheet stack">
    <div class="row">
      <h1 class="grow">
        {{ delivery.code }} <span class="soft">· {{ delivery.supplierName }}, order {{ delivery.orderNumber }}</span>
      </h1>
      <b :class="delivery.isFree ? 'conforming' : 'hold'" data-test="free">{{ delivery.isFree ? '○ free' : `${open} of ${all} inspections open` }}</b>
    </div>
    <p class="soft">Received {{ momentOf(delivery.receivedAt) }} by {{ delivery.receivedByName }}</p>
    <ErrorNote :failure="saver.failure.value" />
    <section v-for="lot in delivery.lots" :key="lot.id" class="lot">
      <div class="row">
        <h2 class="grow">{{ lot.partCode }} {{ lot.partName }}</h2>
        <router-link class="m" :to="`/trace/${lot.id}`">{{ lot.code }}</router-link>
      </div>
      <p class="small soft">
        supplier's lot <b class="m">{{ lot.supplierLot }}</b>
      </p>
      <QuantityBar :balances="lot.balances" :unit="lot.unit" :arrived="lot.quantity" />
      <div v-if="lot.gateReasons.length > 0" class="gate" data-test="take-to">
        <b class="hold">Take {{ placesHeld(lot) }}.</b> It stays there on hold: {{ lot.gateReasons.join('; ') }}.
      </div>
      <table v-if="lot.inspections.length > 0" class="plain">
        <thead>
          <tr>
            <th>Inspection</th>
            <th>asks for</th>
            <th class="right">n</th>
            <th class="right">Ac</th>
            <th>worked out</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="inspection in lot.inspections" :key="inspection.id">
            <tr v-for="(line, i) in inspection.lines" :key="line.name">
              <td>
                <template v-if="i === 0"
                  ><router-link :to="`/record/${inspection.id}`">{{ inspection.code }}</router-link>
                  <span class="soft">{{ stateWords[inspection.state] }}</span></template
                >
              </td>
              <td>{{ line.name }}</td>
              <td class="right m">{{ line.sampleSize }}</td>
              <td class="right m">{{ line.accept }}</td>
              <td class="small soft">{{ line.reasoning }}</td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-else class="soft">Nothing is inspected at receiving for this part.</p>
      <form v-for="spot in movable(lot)" :key="`${spot.containerId} ${spot.placeId}`" class="away row" @submit.prevent="putAway(lot, spot)">
        <span class="grow"
          ><b class="m">{{ whole(spot.quantity) }}</b> {{ spot.standing === 'onHold' ? 'on hold' : 'released'
          }}{{ spot.containerLabel ? ` in ${spot.containerLabel}` : '' }}, {{ spot.placeName }}</span
        >
        <PickOne
          :model-value="targets[lot.id] ?? null"
          class="target"
          :endpoint="define.places.list"
          label="Put away to"
          :filter="isStore"
          field="toPlace"
          @update:model-value="targets[lot.id] = $event"
        />
        <v-btn type="submit" color="primary" variant="outlined" :disabled="!targets[lot.id]" :loading="saver.isBusy.value" data-test="put-away"
          >Put away</v-btn
        >
      </form>
    </section>
  </div>
  <EmptyState v-else title="Delivery" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { isSettled } from '@nemawashi/core'
import { endpoints, type BalanceRow, type DeliveredLot, type Place } from '@nemawashi/contract'
import { computed, reactive, watch } from 'vue'
import { call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { notify } from '../frame/notify'
import { useThing } from '../frame/queries'
import EmptyState from '../pieces/EmptyState.vue'
import ErrorNote from '../pieces/ErrorNote.vue'
import { momentOf, stateWords, whole } from '../pieces/format'
import PickOne from '../pieces/PickOne.vue'
import QuantityBar from '../pieces/QuantityBar.vue'
import { useSaver } from '../pieces/useSaver'

/** A delivery: where its pieces stand, where they are to be taken, what is inspected and how much, and put-away. */
const { id, mayPutAway } = defineProps<{ id: string; mayPutAway: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const { define, run } = endpoints
const saver = useSaver()
const { data: delivery, failure, put } = useThing(run.getDelivery, () => ({ params: { id } }))
const targets = reactive<Record<string, string | null>>({})
const inspections = computed(() => delivery.value?.lots.flatMap((lot) => lot.inspections) ?? [])
const all = computed(() => inspections.value.length)
const open = computed(() => inspections.value.filter((inspection) => !isSettled(inspection.state)).length)
const isStore = (row: Place) => row.purpose === 'store'
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: delivery.value?.code ?? '…' }])

watch(delivery, (loaded) => loaded?.lots.forEach((lot) => (targets[lot.id] ??= lot.putAwayPlaceId)), { immediate: true })

function placesHeld(lot: DeliveredLot): string {
  const held = lot.balances.filter((balance) => balance.standing === 'onHold')
  const places = [...new Set(held.map((balance) => balance.placeName))].join(', ')
  const containers = held.filter((balance) => balance.containerLabel !== null).map((balance) => balance.containerLabel)
  return `${containers.length > 0 ? containers.join(', ') : 'all of it'} to ${places || 'where it is'}`
}
/** What can still be put away, or would be if its gate were open. */
function movable(lot: DeliveredLot): BalanceRow[] {
  if (!mayPutAway) return []
  const target = targets[lot.id]
  return lot.balances.filter(
    (balance) =>
      balance.standing === 'onHold' || (balance.standing === 'released' && balance.placeId !== target && balance.placeId !== lot.putAwayPlaceId),
  )
}
async function putAway(lot: DeliveredLot, spot: BalanceRow): Promise<void> {
  await saver.save(async () => {
    put(
      await call(run.putAway, {
        params: { id: lot.id },
        body: { containerId: spot.containerId, fromPlaceId: spot.placeId, quantity: spot.quantity, toPlaceId: targets[lot.id] ?? '' },
      }),
    )
    notify(`${whole(spot.quantity)} put away.`)
    emit('changed')
  })
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.lot {
  border-top: 1px solid var(--rule);
  padding-top: 14px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.gate {
  border-left: 4px solid var(--hold);
  padding: 6px 12px;
  background: var(--paper);
}
.away {
  border-bottom: 1px solid var(--rule);
  padding-bottom: 8px;
}
.target {
  max-width: 260px;
}
</style>
