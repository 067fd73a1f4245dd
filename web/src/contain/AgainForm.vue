<template>
  <form class="stack" data-test="again" @submit.prevent="begin">
    <h2>{{ before ? 'Decide anew' : 'Decide on these pieces' }}</h2>
    <p v-if="!before" class="soft small">
      No inspection asks about these pieces. Any that are still in the plant can be decided on, with a reason and your seal.
    </p>
    <p v-else class="soft small">
      For pieces that are still in the plant. The new decision names the one before, of {{ momentOf(before.signedAt) }} by {{ before.signedByName }},
      and needs a reason and your seal.
    </p>
    <table class="plain deciding">
      <thead>
        <tr>
          <th style="width: 170px">now</th>
          <th class="right" style="width: 104px">quantity</th>
          <th style="width: 206px">do</th>
          <th>reason</th>
          <th style="width: 64px"><span class="sr-only">change the rows</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="row.key">
          <td>
            <b class="m">{{ figureOf(row.there, unit) }}</b> {{ standingWords[row.standing] }}, {{ row.placeName }}
            <span v-if="row.containerLabel" class="m">{{ row.containerLabel }}</span>
            <span v-if="row.sublotCode" class="soft small">of {{ row.sublotCode }}</span>
          </td>
          <DecisionCells
            v-model="rows[i]!"
            :at="i"
            :choices="choicesOf(row)"
            :problems="problemsOf(i)"
            needs-reason
            field="again-"
            empty-quantity="none"
          />
          <td><button type="button" class="link" :aria-label="`Split row ${i + 1}`" @click="split(i)">Split</button></td>
        </tr>
      </tbody>
    </table>
    <p v-for="message in ofAll" :key="message" class="nonconforming" role="alert" data-test="problem">{{ message }}</p>
    <div class="row">
      <v-btn type="submit" color="primary" variant="outlined" :disabled="chosen.length === 0" :loading="isChecking" data-test="decide-again">{{
        before ? 'Decide anew and seal' : 'Decide and seal'
      }}</v-btn>
      <span class="soft small">{{ chosen.length === 0 ? 'Say of how many pieces what becomes of them.' : summaryWords(parts(), unit) }}</span>
    </div>
    <ErrorNote :failure="isSigning ? null : failure" />
    <SealDialog
      v-model="isSigning"
      v-model:password="password"
      :lot-code="lotCode"
      :part-words="partWords"
      :finding="isAnyFailed ? 'An inspection of these pieces was not acceptable.' : 'Every inspection of these pieces was acceptable.'"
      :is-failed="isAnyFailed"
      :unit="unit"
      :rows="sealedRows"
      :then="thenWords(parts(), unit, [])"
      :failure="saver.failure.value"
      :is-busy="saver.isBusy.value"
      @seal="seal"
    />
  </form>
</template>

<script setup lang="ts">
import {
  dispositionWords,
  dispositionsFor,
  holdReaches,
  standingWords,
  standingsInPlant,
  type Disposition,
  type PiecesMeant,
  type Standing,
} from '@nemawashi/core'
import { type BalanceRow, type Decision, contain } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { useUnsaved } from '../shell/unsaved'
import ErrorNote from '../components/ErrorNote.vue'
import { figureOf, momentOf, typedQuantity } from '../format/format'
import { summaryWords, thenWords } from './consequence'
import DecisionCells from './DecisionCells.vue'
import SealDialog from './SealDialog.vue'
import { useSeal } from './useSeal'

/** A decision on pieces that were decided on before: where they are now, and what becomes of how many. */
const { lotId, lotCode, partWords, unit, balances, before, failed, isMade } = defineProps<{
  lotId: string
  lotCode: string
  partWords: string
  unit: string
  balances: readonly BalanceRow[]
  /** The decision that it comes after; null where nothing was decided on the lot yet. */
  before: Decision | null
  /** Which pieces of the lot an inspection did not find acceptable. */
  failed: readonly PiecesMeant[]
  isMade: boolean
}>()
const emit = defineEmits<{ decided: []; stale: [] }>()

interface Draft {
  key: number
  containerId: string | null
  containerLabel: string | null
  placeId: string
  placeName: string
  standing: Standing
  sublot: string
  sublotCode: string | null
  there: number
  quantity: string
  disposition: Disposition
  reason: string
}
let nextKey = 0
type SpotOf = Pick<Draft, 'containerId' | 'sublot'>
const hasFailed = (spot: SpotOf) => failed.some((hold) => holdReaches(hold, spot))
const choicesOf = (spot: SpotOf & Pick<Draft, 'standing'>) =>
  dispositionsFor(spot.standing, { hasFailed: hasFailed(spot), isMade }).map((disposition) => ({
    title: dispositionWords[disposition],
    value: disposition,
  }))
const rows = ref<Draft[]>(
  balances
    .filter((spot) => standingsInPlant.includes(spot.standing) && choicesOf(spot).length > 0)
    .map(({ containerId, containerLabel, placeId, placeName, standing, sublot, sublotCode, quantity }) => ({
      key: nextKey++,
      containerId,
      containerLabel,
      placeId,
      placeName,
      standing,
      sublot,
      sublotCode,
      there: quantity,
      quantity: '',
      disposition: choicesOf({ containerId, standing, sublot })[0]?.value ?? 'quarantine',
      reason: '',
    })),
)
function split(i: number): void {
  const row = rows.value[i]
  if (row) rows.value.splice(i + 1, 0, { ...row, key: nextKey++, quantity: '', reason: '' })
}
const chosen = computed(() => rows.value.filter(({ quantity }) => quantity.trim() !== ''))
const isAnyFailed = computed(() => chosen.value.some(hasFailed))
const parts = () =>
  chosen.value.map(({ containerId, placeId, standing, sublot, quantity, disposition, reason }) => ({
    containerId,
    placeId,
    standing,
    sublot,
    quantity: typedQuantity(quantity, unit),
    disposition,
    reason,
  }))
const sealedRows = computed(() =>
  chosen.value.map((row) => ({
    quantity: typedQuantity(row.quantity, unit),
    from: `${standingWords[row.standing]}${row.containerLabel ? `, ${row.containerLabel}` : ''}`,
    disposition: row.disposition,
    reason: row.reason,
  })),
)
let isSealed = false
useUnsaved(
  () => !isSealed && chosen.value.length > 0,
  () => `the decision on ${lotCode}`,
)
const { saver, isSigning, isChecking, password, failure, begin, seal, ofRow, ofAll } = useSeal({
  check: async () =>
    (await call(contain.checkDecisionAgain, { params: { id: lotId }, body: { followsId: before?.id ?? null, rows: parts() } })).problems,
  sign: async (word, key) =>
    void (await call(
      contain.decideAgain,
      { params: { id: lotId }, body: { followsId: before?.id ?? null, password: word, rows: parts() } },
      { key },
    )),
  signed: () => {
    isSealed = true
    emit('decided')
  },
  stale: () => emit('stale'),
})
/** Rows that say nothing are not sent: the problems are those of the rows that are. */
const problemsOf = (i: number) => {
  const row = rows.value[i]
  const at = row ? chosen.value.indexOf(row) : -1
  return at < 0 ? [] : ofRow(at)
}
</script>

<style scoped>
p {
  margin: 0;
}
.link {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
}
</style>
