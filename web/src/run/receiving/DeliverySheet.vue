<template>
  <div v-if="delivery" class="sheet stack">
    <div class="row">
      <h1 class="grow">
        {{ delivery.code }} <span class="soft">· {{ delivery.supplierName }}, order {{ delivery.orderNumber }}</span>
      </h1>
      <b :class="delivery.isFree ? 'conforming' : 'hold'" data-test="free">{{
        delivery.isFree ? '○ free' : `${stillOpen} of ${count(all, 'inspection')} open`
      }}</b>
    </div>
    <p class="soft">
      Received {{ momentOf(delivery.receivedAt) }} by {{ delivery.receivedByName }}{{ loadWords ? ` · ${loadWords}` : '' }} ·
      <a :href="`/api/v1/deliveries/${delivery.id}/labels.pdf`" target="_blank" data-test="labels">Labels, PDF</a>
    </p>
    <p v-for="correction in delivery.corrections" :key="correction.id" class="small" data-test="corrected">
      <b>Put right:</b> {{ correction.lotCode ?? '' }} {{ describeCorrection(correction, unitOf(correction.lotCode)) }}; {{ correction.reason }}
      <span class="soft">{{ correction.byName }}, {{ momentOf(correction.at) }}</span>
    </p>
    <CorrectionForm v-if="isCorrecting" :key="delivery.id" :delivery="delivery" @corrected="corrected" @close="isCorrecting = false" />
    <div v-else-if="mayCorrect">
      <v-btn variant="text" size="small" data-test="correct" @click="isCorrecting = true">Something was entered wrongly</v-btn>
    </div>
    <section v-if="delivery.load.inspections.length > 0" class="lot" data-test="load">
      <h2>The load</h2>
      <p v-if="loadIsOpen" class="gate">
        <b class="hold">All that it brought stays on hold</b> until the load is decided, also where the goods themselves are free.
      </p>
      <AskedTable :inspections="delivery.load.inspections" />
      <SpotQuestions v-for="of in onSpot(delivery.load.inspections)" :id="of.id" :key="of.id" @answered="moved" />
    </section>
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
      <AskedTable v-if="lot.inspections.length > 0" :inspections="lot.inspections" />
      <p v-else-if="lot.skippedByRule.length === 0 && delivery.load.inspections.length === 0" class="soft">
        Nothing is inspected at receiving for this part.
      </p>
      <SpotQuestions v-for="of in onSpot(lot.inspections)" :id="of.id" :key="of.id" @answered="moved" />
      <p v-for="entry in lot.skippedByRule" :key="entry.id" class="small" data-test="passed-by">
        <span class="soft">– not looked at:</span> {{ entry.planName }}, {{ describeDue(entry.due) }}
      </p>
      <PutAway
        v-if="movable(lot).length > 0"
        :lot-id="lot.id"
        :spots="movable(lot)"
        :usual="lot.putAwayPlaceId"
        :unit="lot.unit"
        :is-gate-closed="lot.gateReasons.length > 0"
        @moved="moved"
      />
    </section>
    <DeliveryPapers :delivery="delivery" @added="put" />
    <TodaysRules v-if="mayCorrect" :key="delivery.id" :delivery="delivery" />
  </div>
  <EmptyState v-else title="Delivery" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { isOpen, isSettled, describeCorrection, describeDue } from '@nemawashi/core'
import { type BalanceRow, type DeliveredLot, type Delivery, run } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useCrumbs } from '../../shell/crumbs'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import { count, momentOf } from '../../format/format'
import QuantityBar from '../../components/QuantityBar.vue'
import AskedTable from '../rehearsal/AskedTable.vue'
import CorrectionForm from './CorrectionForm.vue'
import { describeLoad } from './loadWords'
import DeliveryPapers from './DeliveryPapers.vue'
import PutAway from './PutAway.vue'
import SpotQuestions from '../checks/SpotQuestions.vue'
import TodaysRules from '../rehearsal/TodaysRules.vue'
import { useWaiting } from '../checks/useWaiting'

/** A delivery: where its pieces stand, where they are to be taken, what is inspected and how much, and put-away. */
const { id, mayPutAway } = defineProps<{ id: string; mayPutAway: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const {
  data: delivery,
  failure,
  reload,
  put,
} = useWaiting(
  run.getDelivery,
  () => ({ params: { id } }),
  (lot) => !lot.isFree,
)
const inspections = computed(() =>
  delivery.value ? [...delivery.value.load.inspections, ...delivery.value.lots.flatMap((lot) => lot.inspections)] : [],
)
const loadIsOpen = computed(() => delivery.value?.load.inspections.some(({ holds, state }) => holds !== null && !isSettled(state)) ?? false)
const loadWords = computed(() => (delivery.value ? describeLoad(delivery.value.load) : ''))
const all = computed(() => inspections.value.length)
const stillOpen = computed(() => inspections.value.filter((inspection) => !isSettled(inspection.state)).length)
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: delivery.value?.code ?? '…' }])

const unitOf = (lotCode: string | null) => delivery.value?.lots.find(({ code }) => code === lotCode)?.unit ?? 'piece'
/** What is answered here, beside the goods. */
const onSpot = (inspections: DeliveredLot['inspections']) => inspections.filter(({ answeredAt, state }) => answeredAt === 'spot' && isOpen(state))
function placesHeld(lot: DeliveredLot): string {
  const held = lot.balances.filter((balance) => balance.standing === 'onHold')
  const places = [...new Set(held.map((balance) => balance.placeName))].join(', ')
  const containers = held.filter((balance) => balance.containerLabel !== null).map((balance) => balance.containerLabel)
  return `${containers.length > 0 ? containers.join(', ') : 'all of it'} to ${places || 'where it is'}`
}
/** What can still be put away, or would be if its gate were open. */
function movable(lot: DeliveredLot): BalanceRow[] {
  if (!mayPutAway) return []
  return lot.balances.filter(({ standing, placeId }) => (standing === 'onHold' || standing === 'released') && placeId !== lot.putAwayPlaceId)
}
const mayCorrect = useSession().may(run.correctDelivery)
const isCorrecting = ref(false)
watch(
  () => id,
  () => (isCorrecting.value = false),
)
function corrected(now: Delivery): void {
  put(now)
  isCorrecting.value = false
  emit('changed')
}
async function moved(): Promise<void> {
  await reload()
  emit('changed')
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
</style>
