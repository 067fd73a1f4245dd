<template>
  <form v-if="mayDecide" class="stack" @submit.prevent="begin">
    <h2>Decide on what is held</h2>
    <p v-if="inspection.advice && inspection.finding.verdict === 'notAcceptable'" class="hold" data-test="advice">
      {{ inspection.advice }}
    </p>
    <p v-if="inspection.setAside > 0" class="hold" data-test="set-aside">
      {{ amount(quantityOfSamplingUnits(inspection.setAside, unit), unit) }} {{ inspection.setAside === 1 ? 'was' : 'were' }} found nonconforming and
      set aside: not to be released with the others.
    </p>
    <p v-if="inspection.otherOpenInspections.length > 0" class="hold">
      What you free stays on hold until {{ inspection.otherOpenInspections.join(', ') }}
      {{ inspection.otherOpenInspections.length === 1 ? 'is' : 'are' }} decided too.
    </p>
    <p v-if="held.length === 0" class="soft">This inspection holds nothing any more. The seal notes its finding.</p>
    <table v-else class="plain deciding">
      <thead>
        <tr>
          <th style="width: 118px">container</th>
          <th style="width: 104px" class="right">quantity</th>
          <th style="width: 190px">do</th>
          <th>reason</th>
          <th style="width: 76px"><span class="sr-only">change the rows</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="row.key">
          <td class="m label">{{ row.containerLabel ?? 'loose' }}</td>
          <DecisionCells v-model="rows[i]!" :at="i" :choices="choices" :problems="ofRow(i)" :needs-reason="needsReason(row.disposition)" />
          <td class="tools">
            <button v-if="signer.isManager" type="button" :aria-label="`Split row ${i + 1}`" @click="split(i)">Split</button>
            <button
              v-if="rows.filter((other) => other.containerId === row.containerId).length > 1"
              type="button"
              :aria-label="`Take row ${i + 1} out`"
              @click="rows.splice(i, 1)"
            >
              ✕
            </button>
          </td>
        </tr>
        <tr>
          <td><b>together</b></td>
          <td class="right m">
            <b>{{ Number.isNaN(decided) ? '–' : figureOf(decided, unit) }}</b>
          </td>
          <td colspan="3" data-test="adds-up" aria-live="polite">
            <b v-if="gaps.length === 0" class="conforming">adds up to what is held</b>
            <b v-else class="nonconforming">{{ gaps.join('; ') }}</b>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="message in ofAll" :key="message" class="nonconforming" role="alert" data-test="problem">{{ message }}</p>
    <div class="row">
      <v-btn type="submit" color="primary" :disabled="gaps.length > 0" :loading="isChecking" data-test="decide">Decide and seal</v-btn>
      <span class="soft small">{{ consequence }}</span>
    </div>
    <ErrorNote :failure="isSigning ? null : failure" />
    <SealDialog
      v-model="isSigning"
      v-model:password="password"
      :lot-code="inspection.lotCode"
      :part-words="`${inspection.partCode} ${inspection.partName}`"
      :finding="describeFinding(inspection.finding)"
      :is-failed="!isAcceptable"
      :unit="inspection.unit"
      :rows="sealedRows"
      :then="thenWords(sealedRows, inspection.unit, inspection.otherOpenInspections)"
      :failure="saver.failure.value"
      :is-busy="saver.isBusy.value"
      @seal="seal"
    />
  </form>
  <p v-else class="soft">
    {{
      signer.isInspector
        ? `A quality manager decides this: ${isAcceptable ? 'pieces are set aside' : 'the finding is not acceptable'}.`
        : 'A quality manager decides this, or an inspector when the finding is acceptable.'
    }}
  </p>
</template>

<script setup lang="ts">
import {
  dispositions,
  dispositionsFor,
  dispositionWords,
  mayChoose,
  mayDecideOn,
  needsReason,
  describeFinding,
  quantityOfSamplingUnits,
  quantityText,
  stockUnitOf,
} from '@nemawashi/core'
import { type Inspection, contain, sameFacts } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { useSession } from '../shell/session'
import { useUnsaved } from '../shell/unsaved'
import ErrorNote from '../components/ErrorNote.vue'
import { amount, figureOf, typedQuantity } from '../format/format'
import { summaryWords, thenWords } from './consequence'
import DecisionCells from './DecisionCells.vue'
import SealDialog from './SealDialog.vue'
import { firstRows, gapOf, type SplitDraft } from './splitRows'
import { useSeal } from './useSeal'

/** A decision, quantity by quantity: it has to add up to what is held, and is signed with the password. */
const { inspection } = defineProps<{ inspection: Inspection }>()
const emit = defineEmits<{ decided: []; stale: [] }>()
const session = useSession()
const signer = computed(() => {
  const roles = session.person?.roles ?? []
  return { isManager: roles.includes('qualityManager'), isInspector: roles.includes('inspector') }
})
const isAcceptable = inspection.finding.verdict === 'acceptable'
const mayDecide = computed(() => mayDecideOn(signer.value, { hasFailed: !isAcceptable, setAside: inspection.setAside }))
const choices = computed(() =>
  dispositions
    .filter(
      (disposition) =>
        mayChoose(signer.value, disposition) &&
        dispositionsFor('onHold', {
          hasFailed: !isAcceptable,
          isMade: inspection.originKind !== 'delivery',
          isSorted: inspection.sorted !== null,
        }).includes(disposition),
    )
    .map((disposition) => ({ title: dispositionWords[disposition], value: disposition })),
)

let nextKey = 0
const { held, unit } = inspection
const rows = ref<SplitDraft[]>(
  firstRows(held, isAcceptable || inspection.sorted !== null, quantityOfSamplingUnits(inspection.sorted ?? inspection.setAside, unit), unit).map(
    (row) => ({ ...row, key: nextKey++ }),
  ),
)
const decided = computed(() => rows.value.reduce((sum, row) => sum + typedQuantity(row.quantity, unit), 0))
const gaps = computed(() =>
  held.flatMap((entry) => {
    const gap = gapOf(entry, rows.value, unit)
    const where = entry.containerLabel ? `${entry.containerLabel}: ` : ''
    if (gap === 0) return []
    return [
      Number.isNaN(gap)
        ? `${where}say how many, ${stockUnitOf(unit).places === 0 ? 'as a whole number' : `in steps of ${unit}`}, in each row`
        : gap > 0
          ? `${where}${figureOf(gap, unit)} without a decision`
          : `${where}${figureOf(-gap, unit)} too many`,
    ]
  }),
)
const parts = () =>
  rows.value.map(({ containerId, quantity, disposition, reason }) => ({ containerId, quantity: typedQuantity(quantity, unit), disposition, reason }))
const consequence = computed(() => summaryWords(parts(), inspection.unit))
const sealedRows = computed(() =>
  rows.value.map((row) => ({
    quantity: typedQuantity(row.quantity, unit),
    from: row.containerLabel ?? '',
    disposition: row.disposition,
    reason: row.reason,
  })),
)
const before = rows.value.map((row) => ({ ...row }))
let isSealed = false
useUnsaved(
  () => !isSealed && !sameFacts(rows.value, before),
  () => `the decision on ${inspection.lotCode}`,
)
const target = { params: { id: inspection.id } }
const { lotId } = inspection
const { saver, isSigning, isChecking, password, failure, begin, seal, ofRow, ofAll } = useSeal({
  check: async () => (await call(contain.checkDecision, { ...target, body: { lotId, rows: parts() } })).problems,
  sign: async (word, key) =>
    void (await call(contain.decide, { ...target, body: { version: inspection.version, password: word, lotId, rows: parts() } }, { key })),
  signed: () => {
    isSealed = true
    emit('decided')
  },
  stale: () => emit('stale'),
})

function split(i: number): void {
  const row = rows.value[i]
  if (!row) return
  const share = held.find((entry) => entry.containerId === row.containerId)
  const rest = share ? gapOf(share, rows.value, unit) : NaN
  // What is left of the container is offered.
  rows.value.splice(i + 1, 0, { ...row, key: nextKey++, quantity: rest > 0 ? quantityText(rest, unit) : '', reason: '' })
}
</script>

<style scoped>
.label {
  overflow-wrap: anywhere;
}
p {
  margin: 0;
}
.tools {
  white-space: nowrap;
}
.tools button {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  padding: 0 6px;
  cursor: pointer;
}
</style>
