<template>
  <div class="stack hand">
    <PickOne
      v-model="chosen"
      class="lot"
      :endpoint="trace.listLots"
      label="Which lot"
      :title-of="(row: LotRow) => `${row.code} · ${row.partCode} ${row.partName}`"
      :initial="passport ? { id: passport.lot.id, title: `${passport.lot.code} · ${passport.lot.partCode} ${passport.lot.partName}` } : null"
      is-needed
      field="moveLot"
    />
    <p v-if="!lotId" class="soft">Pieces of any lot can be taken to a place that may have them, as they are.</p>
    <template v-else-if="passport">
      <ErrorNote :failure="saver.failure.value" />
      <p v-if="spots.length > 0" class="soft small">They keep their status. What is asked where they go, is asked for.</p>
      <p v-if="spots.length === 0" class="soft">No piece of {{ passport.lot.code }} is in the plant.</p>
      <form v-for="spot in spots" :key="keyOf(spot)" class="row top spot" data-test="spot" @submit.prevent="move(spot)">
        <p class="grow">
          <b class="m">{{ amount(spot.quantity, passport.lot.unit) }}</b> {{ standingWords[spot.standing] }}, {{ spot.placeName }}
          <span v-if="spot.containerLabel" class="m">{{ spot.containerLabel }}</span>
          <span v-if="spot.sublotCode" class="soft small">of {{ spot.sublotCode }}</span>
        </p>
        <v-text-field
          v-model="draftOf(spot).quantity"
          class="number"
          label="How many"
          inputmode="decimal"
          aria-required="true"
          data-field="moveQuantity"
        />
        <PickOne
          v-model="draftOf(spot).toPlaceId"
          class="place"
          :endpoint="define.places.list"
          label="To"
          :filter="(row: Place) => row.id !== spot.placeId && mayBeTakenTo(row.purpose, spot.standing, true)"
          is-needed
          field="movePlace"
        />
        <v-btn
          type="submit"
          variant="outlined"
          color="primary"
          :disabled="!draftOf(spot).toPlaceId"
          :loading="saver.isBusy.value"
          data-test="move-by-hand"
          >Move</v-btn
        >
      </form>
    </template>
    <p v-else-if="failure" class="nonconforming">{{ failure.message }}</p>
  </div>
</template>

<script setup lang="ts">
import { boundTo, mayBeTakenTo, standingsInPlant, standingWords, quantityText } from '@nemawashi/core'
import { type BalanceRow, type LotRow, type Place, define, run, trace } from '@nemawashi/contract'
import { computed, reactive, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, typedQuantity } from '../../format/format'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'

/** Takes pieces of a lot from wherever they lie to any place that may have them, in their standing. The lot stands in the address. */
const route = useRoute()
const router = useRouter()
const saver = useSaver()
const lotId = computed(() => (typeof route.query['lot'] === 'string' ? route.query['lot'] : null))
const chosen = computed({
  get: () => lotId.value,
  set: (lot: string | null) => void router.replace({ query: { ...route.query, lot: lot ?? undefined } }),
})
const { data: passport, failure, reload } = useThing(trace.getPassport, () => (lotId.value === null ? null : { params: { id: lotId.value } }))
/** What has left the plant, or is scrap, is moved by nobody. */
const spots = computed(() =>
  (passport.value?.balances ?? []).filter(
    ({ standing, placePurpose }) => standingsInPlant.includes(standing) && boundTo(placePurpose, { isBeingMade: false, isPicked: false }) !== 'gone',
  ),
)
const keyOf = ({ containerId, placeId, standing, sublot }: BalanceRow) => [containerId, placeId, standing, sublot].join(' ')
const unit = computed(() => passport.value?.lot.unit ?? 'piece')
const drafts = reactive(new Map<string, { quantity: string; toPlaceId: string | null }>())
watch(lotId, () => drafts.clear())
function draftOf(spot: BalanceRow): { quantity: string; toPlaceId: string | null } {
  const key = keyOf(spot)
  if (!drafts.has(key)) drafts.set(key, { quantity: quantityText(spot.quantity, unit.value), toPlaceId: null })
  return drafts.get(key) as { quantity: string; toPlaceId: string | null }
}
async function move(spot: BalanceRow): Promise<void> {
  const draft = draftOf(spot)
  const { containerId, placeId: fromPlaceId, standing, sublot } = spot
  const quantity = typedQuantity(draft.quantity, unit.value)
  const body = { lotId: lotId.value ?? '', containerId, fromPlaceId, standing, sublot, quantity, toPlaceId: draft.toPlaceId ?? '' }
  const done = await saver.save(async () => {
    const { code, opened } = await call(run.transfer, { body })
    const openedWords = opened.map((inspection) => ` ${inspection.planName} (${inspection.code}) is asked for there.`).join('')
    notify(`${code}: ${amount(quantity, unit.value)} moved.${openedWords}`)
  })
  if (done) drafts.clear()
  await reload()
}
</script>

<style scoped>
.hand {
  padding: 12px 16px 30px;
  overflow: auto;
}
.lot {
  max-width: 460px;
}
.spot {
  border-bottom: 1px solid var(--rule);
  padding-bottom: 8px;
}
.number {
  max-width: 120px;
}
.place {
  max-width: 260px;
}
p {
  margin: 0;
}
</style>
