<template>
  <form v-if="mayDecide" class="stack" @submit.prevent="begin">
    <h2>Decide on what is held</h2>
    <p v-if="inspection.otherOpenInspections.length > 0" class="hold">
      What you free stays on hold until {{ inspection.otherOpenInspections.join(', ') }}
      {{ inspection.otherOpenInspections.length === 1 ? 'is' : 'are' }} decided too.
    </p>
    <p v-if="held.length === 0" class="soft">This inspection holds nothing any more. The seal notes its finding.</p>
    <table v-else class="plain" style="table-layout: fixed">
      <thead>
        <tr>
          <th style="width: 84px">container</th>
          <th style="width: 124px" class="right">quantity, {{ inspection.unit }}</th>
          <th style="width: 214px">do</th>
          <th>reason</th>
          <th style="width: 92px" />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="row.key">
          <td class="m">{{ row.containerLabel ?? 'loose' }}</td>
          <td>
            <v-text-field
              v-model="row.quantity"
              class="mono"
              inputmode="numeric"
              :aria-label="`Quantity of row ${i + 1}`"
              :data-field="`quantity${i}`"
              hide-details
            />
          </td>
          <td>
            <v-select
              v-model="row.disposition"
              :items="choices"
              :aria-label="`What to do with row ${i + 1}`"
              :data-field="`disposition${i}`"
              hide-details
            />
          </td>
          <td>
            <v-text-field
              v-model="row.reason"
              :placeholder="needsReason(row) ? 'needed' : ''"
              :aria-label="`Reason of row ${i + 1}`"
              :error-messages="fieldErrors[`rows.${i}.reason`]"
              :data-field="`reason${i}`"
            />
          </td>
          <td class="tools">
            <button v-if="isManager" type="button" :aria-label="`Split row ${i + 1}`" @click="split(i)">Split</button>
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
            <b>{{ Number.isNaN(decided) ? '–' : whole(decided) }}</b>
          </td>
          <td colspan="3" data-test="adds-up" aria-live="polite">
            <b v-if="gaps.length === 0" class="conforming">adds up to what is held</b>
            <b v-else class="nonconforming">{{ gaps.join('; ') }}</b>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="row">
      <v-btn type="submit" color="primary" :disabled="gaps.length > 0" data-test="decide">Decide and seal</v-btn>
      <span class="soft small">{{ consequence }}</span>
    </div>
    <ErrorNote :failure="isSigning ? null : saver.failure.value" />
    <v-dialog v-model="isSigning" width="440">
      <v-card title="Put your seal under it">
        <v-card-text>
          <form id="seal" class="stack" @submit.prevent="sign">
            <p>{{ consequence }}</p>
            <ErrorNote :failure="saver.failure.value" />
            <v-text-field v-model="password" label="Your password" name="seal-password" type="password" autocomplete="current-password" autofocus />
          </form>
        </v-card-text>
        <v-card-actions
          ><v-btn @click="isSigning = false">Cancel</v-btn
          ><v-btn form="seal" type="submit" color="error" variant="flat" :loading="saver.isBusy.value" data-test="sign">Seal</v-btn></v-card-actions
        >
      </v-card>
    </v-dialog>
  </form>
  <p v-else class="soft">
    {{
      session.person?.roles.includes('inspector')
        ? 'A quality manager decides this: the finding is not acceptable.'
        : 'A quality manager decides this, or an inspector when the finding is acceptable.'
    }}
  </p>
</template>

<script setup lang="ts">
import { dispositions, dispositionWords, type Disposition } from '@nemawashi/core'
import { endpoints, type Inspection } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../frame/api'
import { useSession } from '../frame/session'
import ErrorNote from '../pieces/ErrorNote.vue'
import { amount, whole } from '../pieces/format'
import { useSaver } from '../pieces/useSaver'
import { gapOf, heldByContainer, numberOf, type SplitDraft } from './splitRows'

/** A decision, quantity by quantity: it has to add up to what is held, and is signed with the password. */
const { inspection } = defineProps<{ inspection: Inspection }>()
const emit = defineEmits<{ decided: []; stale: [] }>()
const session = useSession()
const saver = useSaver()
const fieldErrors = saver.fieldErrors
const isManager = session.has('qualityManager')
const isAcceptable = inspection.finding.verdict === 'acceptable'
const mayDecide = computed(() => isManager.value || (isAcceptable && (session.person?.roles.includes('inspector') ?? false)))
const choices = computed(() =>
  dispositions
    .filter((disposition) => isManager.value || disposition === 'release')
    .map((disposition) => ({ title: dispositionWords[disposition], value: disposition })),
)

let nextKey = 0
const held = heldByContainer(inspection.isGate ? inspection.balances : [])
const rows = ref<SplitDraft[]>(
  held.map(({ containerId, containerLabel, quantity }) => ({
    key: nextKey++,
    containerId,
    containerLabel,
    quantity: String(quantity),
    disposition: isAcceptable ? 'release' : 'quarantine',
    reason: '',
  })),
)
const isSigning = ref(false)
const password = ref('')
const key = ref(crypto.randomUUID())

const needsReason = (row: SplitDraft) => row.disposition !== 'release' || !isAcceptable
const decided = computed(() => rows.value.reduce((sum, row) => sum + numberOf(row.quantity), 0))
const gaps = computed(() =>
  held.flatMap((entry) => {
    const gap = gapOf(entry, rows.value)
    const where = entry.containerLabel ? `${entry.containerLabel}: ` : ''
    if (gap === 0) return []
    return [
      Number.isNaN(gap)
        ? `${where}a quantity is not a whole number`
        : gap > 0
          ? `${where}${whole(gap)} without a decision`
          : `${where}${whole(-gap)} too many`,
    ]
  }),
)
const consequence = computed(() => {
  const sums = new Map<Disposition, number>()
  for (const row of rows.value) sums.set(row.disposition, (sums.get(row.disposition) ?? 0) + (numberOf(row.quantity) || 0))
  if (sums.size === 0) return 'The finding is noted; nothing moves.'
  return [...sums].map(([disposition, quantity]) => `${amount(quantity, inspection.unit)}: ${dispositionWords[disposition]}`).join(', ')
})

function split(i: number): void {
  const row = rows.value[i]
  if (row) rows.value.splice(i + 1, 0, { ...row, key: nextKey++, quantity: '', reason: '' })
}
function begin(): void {
  saver.clear()
  password.value = ''
  isSigning.value = true
}
async function sign(): Promise<void> {
  const body = {
    version: inspection.version,
    password: password.value,
    rows: rows.value.map(({ containerId, quantity, disposition, reason }) => ({ containerId, quantity: numberOf(quantity), disposition, reason })),
  }
  const done = await saver.save(async () => void (await call(endpoints.contain.decide, { params: { id: inspection.id }, body }, key.value)))
  password.value = ''
  if (done) {
    isSigning.value = false
    return emit('decided')
  }
  const code = saver.failure.value?.code
  if (code !== 'unreachable') key.value = crypto.randomUUID()
  if (code !== 'password_wrong' && code !== 'too_many_attempts') isSigning.value = false
  if (code === 'already_decided' || code === 'stale_version') emit('stale')
}
</script>

<style scoped>
p {
  margin: 0;
}
td :deep(.mono input) {
  font-family: var(--mono);
  text-align: right;
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
