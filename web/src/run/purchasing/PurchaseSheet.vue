<template>
  <div v-if="order" class="sheet stack">
    <div class="row">
      <h1 class="grow">
        Order {{ order.orderNumber }} <span class="soft">· {{ order.supplierName }}{{ order.contract ? `, contract ${order.contract}` : '' }}</span>
      </h1>
      <b :class="order.isClosed ? 'soft' : isOpen ? '' : 'conforming'" data-test="state">{{
        order.isClosed ? 'closed' : isOpen ? 'open' : 'all of it came'
      }}</b>
    </div>
    <p class="soft">Entered {{ momentOf(order.enteredAt) }} by {{ order.enteredByName }}</p>
    <ErrorNote :failure="saver.failure.value" />
    <div v-if="mayAct" class="row">
      <template v-if="!order.isClosed && isOpen">
        <v-btn color="primary" :to="`/run/new?order=${order.id}`" data-test="receive">Book a delivery in</v-btn>
        <v-btn variant="text" :to="`/run/expected/new?order=${order.id}`" data-test="announce">Announce one</v-btn>
      </template>
      <v-btn variant="text" :loading="saver.isBusy.value" data-test="close" @click="close(!order.isClosed)">{{
        order.isClosed ? 'Open it again' : 'Close it: nothing more comes'
      }}</v-btn>
    </div>
    <table class="plain" data-test="lines">
      <thead>
        <tr>
          <th>Part</th>
          <th>Due</th>
          <th class="right">Ordered</th>
          <th class="right">Received</th>
          <th class="right">Open</th>
          <th class="fill"><span class="sr-only">How far</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in order.lines" :key="line.id">
          <td>
            <router-link :to="`/attach/${line.partId}`">{{ line.partCode }}</router-link> {{ line.partName }}
          </td>
          <td :class="{ nonconforming: isLate(line) }">{{ line.dueOn ? dayWords(line.dueOn) : '–' }}{{ isLate(line) ? ', late' : '' }}</td>
          <td class="right m">{{ amount(line.quantity, line.unit) }}</td>
          <td class="right m" :class="{ hold: line.received > line.quantity }">
            {{ figureOf(line.received, line.unit)
            }}{{ line.received > line.quantity ? `, ${figureOf(line.received - line.quantity, line.unit)} too many` : '' }}
          </td>
          <td class="right m">
            <b>{{ line.open === 0 ? '–' : figureOf(line.open, line.unit) }}</b>
          </td>
          <td class="fill" aria-hidden="true">
            <span class="track"><span class="came" :style="{ width: `${Math.min(100, (100 * line.received) / line.quantity)}%` }" /></span>
          </td>
        </tr>
      </tbody>
    </table>
    <section v-if="order.deliveries.length > 0">
      <h2>Came on it</h2>
      <table class="plain" data-test="deliveries">
        <tbody>
          <tr v-for="of in order.deliveries" :key="of.id">
            <td class="m">
              <router-link :to="`/run/${of.id}`">{{ of.code }}</router-link>
            </td>
            <td class="soft">{{ momentOf(of.receivedAt) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-else class="soft">Nothing came on it yet.</p>
  </div>
  <EmptyState v-else title="Purchase order" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { type PurchaseOrder, run } from '@nemawashi/contract'
import { computed } from 'vue'
import { call } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, dayWords, isPast, figureOf, momentOf } from '../../format/format'
import { useActs } from '../../composables/useActs'

/** A purchase order: what was ordered, what came, and what is open, line by line. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const mayAct = useSession().may(run.closePurchaseOrder)
const { data: order, failure, put, reload } = useThing(run.getPurchaseOrder, () => ({ params: { id } }))
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Purchase orders', to: '/run/purchase-orders' }, { words: order.value?.orderNumber ?? '…' }])
const { saver, act } = useActs<PurchaseOrder>({ put, reload, changed: () => emit('changed') })
const isOpen = computed(() => order.value?.lines.some(({ open }) => open > 0) ?? false)
const isLate = ({ open, dueOn }: PurchaseOrder['lines'][number]) => open > 0 && dueOn !== null && isPast(dueOn) && order.value?.isClosed === false
function close(isClosed: boolean): void {
  void act(() => call(run.closePurchaseOrder, { params: { id }, body: { version: order.value?.version ?? 1, isClosed } }))
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.fill {
  width: 120px;
}
.track {
  display: block;
  height: 8px;
  background: var(--rule);
}
.came {
  display: block;
  height: 8px;
  background: var(--indigo);
}
</style>
