<template>
  <form v-first-focus class="form stack" @submit.prevent="send()" @focusout="leave">
    <h1>What has arrived?</h1>
    <p v-if="expected" class="soft" data-test="of-expected">
      {{ expected.code }}, {{ expectedStateWords[expected.state] }}: filled in from what was announced. Put right what is otherwise on the note.
    </p>
    <ErrorNote :failure="saver.note.value" />
    <SupplierOrder v-if="!isWaiting" v-model:supplier-id="supplierId" v-model:order-number="orderNumber" :errors="errors" :given="given" />
    <OpenOrders :orders="orders" :more="more" :order-number="orderNumber" @chosen="choose" />
    <LoadFields v-model="load" :errors="errors">
      <LineAsks v-if="preview && preview.load.length > 0" about="load" :asked="preview.load" />
    </LoadFields>
    <GoodsLineFields
      v-for="(line, i) in lines"
      :key="line.key"
      v-model="lines[i]!"
      :index="i"
      :errors="errors"
      :is-one-of-many="lines.length > 1"
      asks="lot"
      :hint="hints[i] ?? ''"
      @another="
        lines.splice(
          i + 1,
          0,
          goodsLine({ partId: line.partId, partWords: line.partWords, unit: line.unit, isSerial: line.isSerial, packQuantity: line.packQuantity }),
        )
      "
      @out="lines.splice(i, 1)"
    >
      <v-text-field
        v-if="line.isSerial"
        v-model="line.serials"
        label="Serial numbers, one for each piece, e.g. A-001..A-012 A-020"
        class="mono"
        :error-messages="serialsOf(line).problem ?? errors[`lines.${i}.serials`]"
        :hint="serialWords(line)"
        persistent-hint
        data-field="serials"
      />
      <v-text-field
        v-else
        v-model="line.containers"
        label="Containers: how much is in each, e.g. 120 120 96 (empty: loose)"
        class="mono"
        :error-messages="errors[`lines.${i}.containers`]"
        :hint="containerWords(line)"
        persistent-hint
        data-field="containers"
      />
      <v-btn
        v-if="!line.isSerial && line.containers === '' && usualOf(line).length > 0"
        variant="text"
        size="small"
        data-test="usual-containers"
        @click="
          line.containers = usualOf(line)
            .map((of) => quantityText(of, line.unit))
            .join(' ')
        "
        >As usual: {{ usualWords(line) }}</v-btn
      >
      <LineAsks
        v-if="previewOf(line)"
        about="line"
        :asked="previewOf(line)!.asked"
        :place-name="previewOf(line)!.placeName"
        :place-if-drawn="previewOf(line)!.placeIfDrawn"
      />
    </GoodsLineFields>
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value">Book it in</v-btn>
      <v-btn variant="text" @click="lines.push(goodsLine())">Add a line</v-btn>
    </div>
    <p class="soft small">
      Its inspections open by themselves. Where a gate asks for it, the pieces go on hold, and the next screen says where to take them.
    </p>
  </form>
</template>

<script setup lang="ts">
import { figureOf } from '../../format/format'
import { expectedStateWords, quantityText } from '@nemawashi/core'
import { type Delivery, type ExpectedDelivery, type LoadFacts, loadFactsOf, noLoad, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { ask } from '../../shell/ask'
import { useCrumbs } from '../../shell/crumbs'
import { vFirstFocus } from '../../shell/firstFocus'
import ErrorNote from '../../components/ErrorNote.vue'
import { useEntry } from '../../composables/useEntry'
import { parseContainers, usualContainers } from './containers'
import GoodsLineFields from '../goods/GoodsLineFields.vue'
import { goodsLine, isBlankLine, knownLine, quantityOf, type GoodsLine } from '../goods/goodsLine'
import LineAsks from '../rehearsal/LineAsks.vue'
import LoadFields from './LoadFields.vue'
import OpenOrders from '../purchasing/OpenOrders.vue'
import { useDeliveryPreview } from './useDeliveryPreview'
import { useOrdered } from '../purchasing/useOrdered'
import { usePrefilled } from './usePrefilled'
import { readSerials } from './readSerials'
import SupplierOrder from '../purchasing/SupplierOrder.vue'

/** Enters a delivery, as it stands on the delivery note: from nothing, from what was announced, or from what was ordered. */
const { expectedId = null, orderId = null } = defineProps<{ expectedId?: string | null; orderId?: string | null }>()
const emit = defineEmits<{ saved: [delivery: Delivery] }>()
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'New delivery' }])

const supplierId = ref<string | null>(null)
const orderNumber = ref('')
const load = ref<LoadFacts>({ ...noLoad })
const lines = ref<GoodsLine[]>([goodsLine()])
const expected = ref<ExpectedDelivery | null>(null)
const { orders, more, fill, choose, hints } = useOrdered({ supplierId, orderNumber, lines })
const { given, isWaiting } = usePrefilled(
  { expectedId, orderId },
  {
    fromExpected(found) {
      expected.value = found
      supplierId.value = found.supplierId
      orderNumber.value = found.orderNumber
      load.value = loadFactsOf(found.load)
      lines.value = found.lines.map((line) => knownLine(line, line.quantity, line.supplierLot))
    },
    fromOrder: fill,
  },
)

function containerWords(line: GoodsLine): string {
  const amounts = parseContainers(line.containers, line.unit)
  if (amounts.length === 0) return ''
  const together = amounts.reduce((sum, amount) => sum + amount, 0)
  return `${amounts.length} containers, together ${figureOf(together, line.unit)}${line.quantity && together !== quantityOf(line) ? `: not the ${line.quantity} of the note` : ''}`
}
const usualOf = (line: GoodsLine) => usualContainers(quantityOf(line), line.packQuantity)
function usualWords(line: GoodsLine): string {
  const [each = 0, ...others] = usualOf(line)
  const last = others.at(-1) ?? each
  return `${others.length + 1} containers of ${figureOf(each, line.unit)}${last === each ? '' : `, the last of ${figureOf(last, line.unit)}`}`
}
const serialsOf = (line: GoodsLine) => readSerials(line.isSerial ? line.serials : '')
function serialWords(line: GoodsLine): string {
  const count = serialsOf(line).serials.length
  return count === 0 ? '' : `${count} serial numbers${line.quantity && count !== quantityOf(line) ? `: not the ${line.quantity} of the note` : ''}`
}
const containersOf = (line: GoodsLine) => (line.isSerial ? [] : parseContainers(line.containers, line.unit))
const bodyOf = () => ({
  supplierId: supplierId.value ?? '',
  orderNumber: orderNumber.value,
  load: load.value,
  expectedId,
  lines: lines.value.map((line) => ({
    partId: line.partId ?? '',
    supplierLot: line.supplierLot,
    quantity: quantityOf(line),
    containers: containersOf(line).map((quantity) => ({ label: null, quantity })),
    serials: serialsOf(line).serials,
  })),
})
const { preview, previewOf } = useDeliveryPreview(() => ({
  supplierId: supplierId.value,
  orderNumber: orderNumber.value.trim(),
  lines: lines.value.map((line) => ({
    key: line.key,
    partId: line.partId,
    quantity: quantityOf(line),
    containers: containersOf(line),
    serials: serialsOf(line).serials.length,
  })),
}))
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.receiveDelivery,
  bodyOf,
  isBlank: () =>
    supplierId.value === null &&
    orderNumber.value === '' &&
    Object.values(load.value).every((words) => words === '') &&
    lines.value.every(isBlankLine),
  words: 'this delivery',
  saved: (delivery) => emit('saved', delivery),
})
/** What is mostly a slip, and is asked about before it is booked in. */
const questions: Readonly<Partial<Record<string, { flag: 'isAnother' | 'isUnusual'; title: string; text: string; yes: string }>>> = {
  already_received: {
    flag: 'isAnother',
    title: 'Has it come once more?',
    text: 'If this is another delivery of the same lot, it is booked in as a lot of its own.',
    yes: 'Yes, another delivery',
  },
  not_as_ordered: {
    flag: 'isUnusual',
    title: 'Is it right all the same?',
    text: 'If these goods did come so, they are booked in as entered.',
    yes: 'Yes, book them in',
  },
}
async function send(): Promise<void> {
  const said: Partial<Record<'isAnother' | 'isUnusual', true>> = {}
  while (!(await submit(said))) {
    const question = questions[saver.failure.value?.code ?? '']
    if (!question || said[question.flag]) return
    const { title, text, yes, flag } = question
    if ((await ask({ title, text: `${saver.failure.value?.message} ${text}`, yes, no: 'No, look again' })) === null) return
    said[flag] = true
  }
}
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 860px;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
