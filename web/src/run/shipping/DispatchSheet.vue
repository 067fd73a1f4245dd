<template>
  <div v-if="dispatch" class="sheet stack">
    <div class="row">
      <h1 class="grow">
        {{ dispatch.code }} <span class="soft">· {{ dispatch.customerName }}, order {{ dispatch.orderNumber }}</span>
      </h1>
      <b v-if="dispatch.gates.length > 0 && hasFailed" class="nonconforming" data-test="state">✕ a check failed</b>
      <b v-else :class="dispatch.gates.length > 0 ? 'hold' : dispatch.state === 'planned' ? '' : 'conforming'" data-test="state">{{
        dispatch.gates.length > 0 ? 'waits for its checks' : dispatchWords[dispatch.state]
      }}</b>
    </div>
    <p class="soft">
      {{ story }} <template v-if="dispatch.pickedAt">·</template>
      <a v-if="dispatch.pickedAt" :href="`/api/v1/dispatches/${dispatch.id}/note.pdf`" target="_blank" data-test="note">Delivery note, PDF</a>
    </p>
    <ErrorNote :failure="saver.failure.value" />
    <div v-if="dispatch.gates.length > 0" class="gate">
      <b class="hold">It may not {{ dispatch.state === 'planned' ? 'be picked' : 'leave' }} yet.</b> {{ dispatch.gates.join('; ') }}.
    </div>
    <table v-if="dispatch.lines.length > 0" class="plain" data-test="lines">
      <thead>
        <tr>
          <th>Planned</th>
          <th class="right">Quantity</th>
          <th class="right">{{ dispatch.pickedAt ? 'Picked' : 'Free in stores' }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in dispatch.lines" :key="line.partId">
          <td>
            {{ line.partCode }} {{ line.partName }}
            <AskedToday v-if="!dispatch.pickedAt" :part-id="line.partId" at="shipping" :partner-id="dispatch.customerId" :quantity="line.quantity" />
          </td>
          <td class="right m">{{ amount(line.quantity, line.unit) }}</td>
          <td class="right">
            <span class="m" :class="{ hold: (dispatch.pickedAt ? line.picked : line.free) < line.quantity }">{{
              amount(dispatch.pickedAt ? line.picked : line.free, line.unit)
            }}</span>
            <p v-for="other in line.alsoPlanned" :key="other.id" class="soft small" data-test="also-planned">
              <span class="m">{{ figureOf(other.quantity, line.unit) }}</span> also planned:
              <router-link class="m" :to="`/run/dispatches/${other.id}`">{{ other.code }}</router-link>{{
                other.leavesOn ? `, leaves ${dayWords(other.leavesOn)}` : ''
              }}
            </p>
          </td>
        </tr>
      </tbody>
    </table>
    <table v-if="dispatch.picks.length > 0" class="plain" data-test="picks">
      <thead>
        <tr>
          <th>Lot</th>
          <th>Part</th>
          <th>Container</th>
          <th class="right">Quantity</th>
          <th class="right">{{ dispatch.state === 'sent' ? 'Left' : 'Ready to leave' }}</th>
          <th class="right">Came back</th>
          <th v-if="dispatch.state === 'sent' && mayAct"><span class="sr-only">receive return</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="pick in dispatch.picks" :key="pick.id">
          <td>
            <router-link class="m" :to="`/trace/${pick.lotId}`">{{ pick.lotCode }}</router-link>
          </td>
          <td>
            {{ pick.partCode }} {{ pick.partName }}
            <AskedToday :part-id="pick.partId" at="shipping" :partner-id="dispatch.customerId" :quantity="pick.quantity" />
          </td>
          <td class="m">{{ pick.containerLabel ?? 'loose' }}</td>
          <td class="right m">{{ amount(pick.quantity, pick.unit) }}</td>
          <td class="right">
            <span class="m" :class="{ hold: isShort(pick) }">{{ dispatch.state === 'cancelled' ? '–' : amount(pick.leaving, pick.unit) }}</span>
            <p v-if="pick.onHold > 0" class="soft small">
              <span class="m">{{ figureOf(pick.onHold, pick.unit) }}</span> on hold
            </p>
          </td>
          <td class="right m">{{ pick.returned || '–' }}</td>
          <td v-if="dispatch.state === 'sent' && mayAct" class="right">
            <v-btn size="small" variant="text" @click="back = { pickId: pick.id, lotCode: pick.lotCode, unit: pick.unit, quantity: '', reason: '' }"
              >Receive return</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
    <form v-if="back" class="stack back" data-test="take-back" @submit.prevent="receiveReturn">
      <h2>What came back of lot {{ back.lotCode }}?</h2>
      <div class="row top">
        <v-text-field
          v-model="back.quantity"
          class="number"
          :label="`Quantity, ${stockUnitOf(back.unit).symbol}`"
          inputmode="decimal"
          data-field="quantity"
        />
        <v-text-field v-model="back.reason" class="grow" label="What the customer says" data-field="reason" />
      </div>
      <div class="row">
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value">Receive return, on hold</v-btn>
        <v-btn variant="text" @click="back = null">Close</v-btn>
      </div>
    </form>
    <template v-for="pick in dispatch.picks" :key="pick.id">
      <section v-if="pick.backAndFree.length > 0 && mayPutAway">
        <h2>Free again of lot {{ pick.lotCode }}: put it away</h2>
        <PutAway :lot-id="pick.lotId" :spots="pick.backAndFree" :usual="pick.putAwayPlaceId" :unit="pick.unit" @moved="reload" />
      </section>
    </template>
    <PickPlanned
      v-if="dispatch.state === 'planned' && mayAct"
      :dispatch="dispatch"
      :is-closed="dispatch.gates.length > 0"
      @picked="picked"
      @refused="reload"
    >
      <v-btn variant="text" @click="cancelDispatch">Cancel dispatch</v-btn>
    </PickPlanned>
    <div v-if="dispatch.state === 'picked' && mayAct" class="row">
      <v-btn color="primary" size="large" :disabled="dispatch.gates.length > 0" :loading="saver.isBusy.value" data-test="send" @click="send"
        >Let it leave</v-btn
      >
      <v-btn variant="text" @click="cancelDispatch">Cancel dispatch</v-btn>
    </div>
    <section v-if="dispatch.checks.length > 0">
      <h2>Checks</h2>
      <CheckTable :checks="dispatch.checks" :unit-of="({ lotCode }) => unitOfLot(lotCode)" />
    </section>
    <section v-if="dispatch.returns.length > 0">
      <h2>Came back</h2>
      <table class="plain" data-test="returns">
        <tbody>
          <tr v-for="of in dispatch.returns" :key="of.id">
            <td class="m">{{ of.code }}</td>
            <td class="m">{{ of.lotCode }}</td>
            <td class="right m">{{ figureOf(of.quantity, unitOfLot(of.lotCode)) }}</td>
            <td>{{ of.reason }} <AskedToday :part-id="of.partId" at="return" :partner-id="dispatch.customerId" :quantity="of.quantity" /></td>
            <td class="soft small">{{ momentOf(of.at) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
  <EmptyState v-else title="Dispatch" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { stockUnitOf } from '@nemawashi/core'
import { type Dispatch, run, upperFirst } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { useCrumbs } from '../../shell/crumbs'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, dayWords, dispatchWords, figureOf, momentOf, typedQuantity } from '../../format/format'
import { useActs } from '../../composables/useActs'
import AskedToday from '../rehearsal/AskedToday.vue'
import CheckTable from '../checks/CheckTable.vue'
import PickPlanned from './PickPlanned.vue'
import PutAway from '../receiving/PutAway.vue'
import { useWaiting } from '../checks/useWaiting'

/** A dispatch: what leaves, what it waits for, and what came back of it. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const mayAct = session.may(run.sendDispatch)
const mayPutAway = session.may(run.putAway)
const {
  data: dispatch,
  failure,
  put,
  reload,
} = useWaiting(
  run.getDispatch,
  () => ({ params: { id } }),
  (dispatch) => dispatch.gates.length > 0,
)
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Dispatches', to: '/run/dispatches' }, { words: dispatch.value?.code ?? '…' }])
/** What was found already keeps it back: waiting would not help. */
const hasFailed = computed(() => (dispatch.value?.checks ?? []).some(({ state, verdict }) => state === 'finished' && verdict === 'notAcceptable'))
/** Pieces of it were taken out by a decision, or are on hold. */
/** What is counted in what, by the lots that were picked. */
const unitOfLot = (code: string | null) => dispatch.value?.picks.find(({ lotCode }) => lotCode === code)?.unit ?? 'piece'
const isShort = (pick: Dispatch['picks'][number]) => dispatch.value?.state !== 'cancelled' && pick.leaving < pick.quantity
/** Who planned, picked and sent it when. */
const story = computed(() => {
  const current = dispatch.value
  if (!current) return ''
  const planned = current.lines.length > 0 ? `planned ${momentOf(current.at)} by ${current.byName}` : ''
  const leaves = current.leavesOn && current.sentAt === null && current.state !== 'cancelled' ? `to leave on ${dayWords(current.leavesOn)}` : ''
  const taken = current.pickedAt === null ? '' : `picked ${momentOf(current.pickedAt)} by ${current.pickedByName}`
  const left = current.sentAt === null ? '' : `left ${momentOf(current.sentAt)}`
  return upperFirst([planned, leaves, taken, left].filter((words) => words !== '').join(', '))
})
function picked(picking: Dispatch): void {
  put(picking)
  emit('changed')
  notify(`${picking.code} is picked${picking.gates.length > 0 ? ', and waits for its checks' : ''}.`)
}
const back = ref<{ pickId: string; lotCode: string; unit: string; quantity: string; reason: string } | null>(null)

const { saver, act } = useActs<Dispatch>({ put, reload, changed: () => emit('changed') })
const byVersion = () => ({ params: { id }, body: { version: dispatch.value?.version ?? 1 } })
function send(): void {
  void act(
    () => call(run.sendDispatch, byVersion()),
    ({ code }) => `${code} has left.`,
  )
}
async function cancelDispatch(): Promise<void> {
  const answer = await ask({
    title: `Call ${dispatch.value?.code} off?`,
    text:
      dispatch.value?.state === 'planned'
        ? 'Nothing of it is picked. What is asked of it is cancelled.'
        : 'What is still free goes back to where it was taken from. What is on hold stays at the door until it is decided.',
    yes: 'Cancel dispatch',
  })
  if (answer !== null)
    await act(
      () => call(run.cancelDispatch, byVersion()),
      ({ code }) => `${code} is cancelled.`,
    )
}
async function receiveReturn(): Promise<void> {
  const returning = back.value
  if (!returning) return
  const body = { pickId: returning.pickId, quantity: typedQuantity(returning.quantity, returning.unit), reason: returning.reason }
  const done = await act(
    () => call(run.receiveReturn, { params: { id }, body }),
    () => 'It is on hold, and what its return asks for has opened.',
  )
  if (done) back.value = null
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.gate {
  border-left: 4px solid var(--hold);
  padding: 6px 12px;
  background: var(--paper);
}
.back {
  border-left: 4px solid var(--indigo);
  background: var(--paper);
  padding: 12px 16px;
}
.number {
  max-width: 140px;
}
</style>
