<template>
  <div v-if="order" class="sheet stack">
    <header class="row">
      <h1 class="grow">
        {{ order.partCode }} {{ order.partName }}
        <span class="soft"
          >· order <span class="m">{{ order.code }}</span>, {{ amount(order.quantity, order.unit)
          }}{{ order.customerName ? `, for ${order.customerName}` : '' }}</span
        >
      </h1>
      <router-link v-if="order.lotId" class="m" :to="`/trace/${order.lotId}`">lot {{ order.lotCode }}</router-link>
    </header>
    <ol class="steps" aria-label="Steps of the order">
      <li v-for="step in order.steps" :key="step.id" :class="step.state" :aria-current="step.id === order.next?.stepId ? 'step' : undefined">
        <span class="ring" aria-hidden="true" />
        <b>{{ step.operationName }}</b>
        <span class="soft small">{{ stepWords(step) }}</span>
        <span v-if="step.checks.some(hasFailed)" class="nonconforming small">✕ a check failed</span>
      </li>
    </ol>
    <ErrorNote :failure="saver.note.value" />
    <section v-if="order.next" class="next stack" :class="{ shut: order.next.gates.length > 0 }" data-test="next">
      <StepRun
        v-if="order.next.act === 'confirm' && stepNow"
        :step="stepNow"
        :remaining="order.next.quantity"
        :unit="order.unit"
        :gates="order.next.gates"
        :may-act="mayAct"
        :is-busy="saver.isBusy.value"
        :serials="order.next.serials"
        :errors="saver.fieldErrors.value"
        :told="told"
        @tell="tell"
        @confirm="confirm"
      />
      <template v-else-if="order.next.gates.length > 0">
        <h2 class="hold">You can't {{ actWords }} yet.</h2>
        <GateList :gates="order.next.gates" />
      </template>
      <template v-else>
        <h2>{{ nextWords }}</h2>
        <v-text-field
          v-if="mayAct && order.next.act === 'release' && order.tracking === 'serial'"
          v-model="serials"
          label="Serial numbers, e.g. A-001..A-012 (empty: the plant gives them)"
          :error-messages="serialError ?? saver.fieldErrors.value['serials']"
          data-field="serials"
        />
        <div v-if="mayAct">
          <v-btn size="large" color="primary" :loading="saver.isBusy.value" data-test="act" @click="go">{{ buttonWords }}</v-btn>
        </div>
      </template>
    </section>
    <p v-else class="soft">This order is {{ order.state }}.</p>
    <SpotQuestions v-for="check in onSpot" :id="check.id" :key="check.id" @answered="reload" />
    <div v-if="mayAct && isCancellable">
      <v-btn variant="text" data-test="cancel-order" @click="cancelOrder">Cancel order</v-btn>
    </div>
    <section v-for="step in order.steps.filter((entry) => entry.checks.length + entry.reports.length > 0).toReversed()" :key="step.id">
      <h2>{{ step.checks.length > 0 ? 'Checks at' : 'Reports of' }} {{ step.operationName }}</h2>
      <CheckTable :checks="step.checks" :unit-of="() => unit" />
      <StepStory :step="step" :unit="order.unit" />
      <AskedToday :part-id="order.partId" :at="step.operationId" :partner-id="order.customerId" :quantity="order.quantity" />
    </section>
    <section v-if="order.balances.length > 0">
      <h2>Where its pieces are</h2>
      <QuantityBar :balances="order.balances" :unit="order.unit" />
    </section>
    <IssueComponent v-if="order.state === 'released' && mayAct" :order="order" @issued="take" />
    <section v-if="order.components.length > 0">
      <h2>Issued to it</h2>
      <table class="plain" data-test="components">
        <tbody>
          <tr v-for="(of, i) in order.components" :key="i">
            <td>{{ of.partCode }}</td>
            <td>
              <router-link class="m" :to="`/trace/${of.lotId}`">{{ of.lotCode }}</router-link>
            </td>
            <td class="right m">{{ amount(of.quantity, of.unit) }}</td>
            <td class="soft small">{{ momentOf(of.at) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
  <EmptyState v-else title="Production order" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { type OpenedCheck, type OrderStep, type ProductionOrder, type StepPieces, type StepReportInput, run } from '@nemawashi/contract'
import { isOpen, isOrderCancellable } from '@nemawashi/core'
import { computed, ref } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { useCrumbs } from '../../shell/crumbs'
import { notify } from '../../shell/notify'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, figureOf, momentOf } from '../../format/format'
import QuantityBar from '../../components/QuantityBar.vue'
import { useActs } from '../../composables/useActs'
import AskedToday from '../rehearsal/AskedToday.vue'
import CheckTable from '../checks/CheckTable.vue'
import GateList from '../checks/GateList.vue'
import IssueComponent from './IssueComponent.vue'
import { readSerials } from '../receiving/readSerials'
import SpotQuestions from '../checks/SpotQuestions.vue'
import StepRun from './StepRun.vue'
import StepStory from './StepStory.vue'
import { useWaiting } from '../checks/useWaiting'

/** The machine side: the next step, whether a check is due, whether it can go on, and what to press. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const mayAct = useSession().may(run.startStep)
const {
  data: order,
  failure,
  put,
  reload,
} = useWaiting(
  run.getOrder,
  () => ({ params: { id } }),
  (order) => order.steps.some(({ state }) => state === 'running') || (order.next?.gates.length ?? 0) > 0,
)
const unit = computed(() => order.value?.unit ?? 'piece')
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Production orders', to: '/run/orders' }, { words: order.value?.code ?? '…' }])

const isCancellable = computed(() => {
  const current = order.value
  return (
    current !== undefined &&
    current !== null &&
    isOrderCancellable({ state: current.state, made: current.balances.reduce((sum, { quantity }) => sum + quantity, 0) })
  )
})
async function cancelOrder(): Promise<void> {
  const reason = await ask({
    title: `Call ${order.value?.code} off?`,
    text: 'It has made nothing. What is asked of it is cancelled with it; what was issued to it stays used.',
    yes: 'Cancel order',
    no: 'Keep it',
    needsReason: true,
  })
  if (reason === null) return
  await act(
    () => call(run.cancelOrder, { params: { id }, body: { version: order.value?.version ?? 1, reason } }),
    ({ code }) => `${code} is cancelled.`,
  )
}

const stepNow = computed(() => order.value?.steps.find((step) => step.id === order.value?.next?.stepId))

const actWords = computed(() => {
  const step = stepNow.value?.operationName ?? ''
  const words = { release: 'release this order', start: `start ${step}`, confirm: `confirm ${step}`, finish: 'finish this order' }
  return words[order.value?.next?.act ?? 'release']
})
const buttonWords = computed(() => actWords.value.charAt(0).toUpperCase() + actWords.value.slice(1))
const nextWords = computed(() => {
  const next = order.value?.next
  if (next?.act === 'release') return 'Release it: its lot is given, and work can begin.'
  if (next?.act === 'finish' && next.quantity === 0) return 'Nothing of it is left to work on: it can be finished.'
  if (next?.act === 'finish') return `Every step is confirmed: ${amount(next.quantity, unit.value)} can go to the store.`
  return `Next: ${stepNow.value?.operationName}, ${amount(next?.quantity ?? 0, unit.value)}.`
})
/** What the steps ask of their operator. */
const onSpot = computed(
  () => order.value?.steps.flatMap(({ checks }) => checks).filter(({ answeredAt, state }) => answeredAt === 'spot' && isOpen(state)) ?? [],
)
function hasFailed(check: OpenedCheck): boolean {
  return check.verdict === 'notAcceptable' && check.state !== 'cancelled'
}
function stepWords(step: OrderStep): string {
  if (step.state === 'running') return step.isPaused ? 'paused' : `running since ${momentOf(step.startedAt ?? '')}`
  if (step.state === 'waiting') return ''
  const told = (quantity: number) => figureOf(quantity, unit.value)
  const lost = [step.scrapped > 0 ? `${told(step.scrapped)} scrapped` : '', step.setAside > 0 ? `${told(step.setAside)} to rework` : '']
  return [`${told(step.good)} good`, ...lost].filter(Boolean).join(', ')
}

function take(changed: ProductionOrder): void {
  put(changed)
  emit('changed')
}
const { saver, act } = useActs<ProductionOrder>({ put, reload, changed: () => emit('changed') })
function go(): void {
  const now = order.value
  if (!now?.next) return
  const { act: next } = now.next
  if (next === 'release') return release(now)
  const address = { start: run.startStep, confirm: run.startStep, finish: run.finishOrder }[next]
  void act(() => call(address, { params: { id }, body: { version: now.version } }))
}
/** Serial numbers as they are typed, and what is wrong with them. */
const serials = ref('')
const serialError = ref<string | null>(null)
function release({ version }: ProductionOrder): void {
  const typed = readSerials(serials.value)
  serialError.value = typed.problem
  if (typed.problem !== null) return
  const given = typed.serials.length > 0 ? typed.serials : null
  void act(
    () => call(run.releaseOrder, { params: { id }, body: { version, serials: given } }),
    ({ lotCode }) => `Its lot is ${lotCode}.`,
  )
}
const told = ref(0)
async function tell(report: StepReportInput): Promise<void> {
  const version = order.value?.version ?? 1
  const opened = () => order.value?.steps.flatMap(({ checks }) => checks).length ?? 0
  const before = opened()
  const isDone = await act(() => call(run.reportStep, { params: { id }, body: { version, report } }))
  if (isDone && report.kind === 'pieces') told.value += 1
  if (opened() > before) notify('A check has come up.')
}
function confirm(pieces: StepPieces): void {
  void act(() => call(run.confirmStep, { params: { id }, body: { version: order.value?.version ?? 1, ...pieces } }))
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.steps {
  display: flex;
  list-style: none;
  padding: 0;
  margin: 4px 0 8px;
  overflow-x: auto;
}
.steps li {
  flex: 1 0 110px;
  display: flex;
  flex-direction: column;
  align-items: center;
  text-align: center;
  position: relative;
}
.steps li::before {
  content: '';
  position: absolute;
  top: 9px;
  left: -50%;
  right: 50%;
  height: 5px;
  background: var(--rule);
}
.steps li:first-child::before {
  display: none;
}
.ring {
  width: 22px;
  height: 22px;
  border-radius: 50%;
  border: 5px solid var(--rule);
  background: var(--sheet);
  margin-bottom: 6px;
  z-index: 1;
}
.confirmed .ring {
  border-color: var(--ink);
  background: var(--ink);
}
.steps .confirmed::before,
.steps .running::before {
  background: var(--ink);
}
.running .ring {
  border-color: var(--indigo);
}
.next {
  border-left: 5px solid var(--indigo);
  background: var(--paper);
  padding: 14px 18px;
}
.next.shut {
  border-left-color: var(--hold);
}
.next h2,
.next ul {
  margin: 0;
}
</style>
