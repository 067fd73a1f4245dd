<template>
  <section v-if="picks" class="stack">
    <h2>Pick it</h2>
    <ErrorNote :failure="saver.note.value" />
    <div v-if="picks.length === 0" class="row" data-test="nothing-free">
      <p class="soft grow">Nothing of it is free in a store yet.</p>
      <slot />
    </div>
    <form v-else class="stack" data-test="pick-planned" @submit.prevent="pick">
      <PickFields v-model="picks" :errors="saver.fieldErrors.value" />
      <p v-if="short.length > 0" class="soft small" data-test="short">
        <b class="hold">Less is free than planned:</b> {{ short.join('; ') }}. What is picked now is all that leaves with it.
      </p>
      <div class="row">
        <v-btn
          type="submit"
          color="primary"
          size="large"
          :disabled="isClosed || !picks.every(isChosen)"
          :loading="saver.isBusy.value"
          data-test="pick"
          >Pick it</v-btn
        >
        <v-btn variant="text" @click="picks.push(blankPick())">Add a lot</v-btn>
        <slot />
        <span v-if="isClosed" class="soft small">It waits for its checks.</span>
      </div>
    </form>
  </section>
</template>

<script setup lang="ts">
import { type Dispatch, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call, newKey } from '../../shell/api'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount } from '../../format/format'
import { useSaver } from '../../composables/useSaver'
import PickFields from './PickFields.vue'
import { blankPick, isChosen, pickBodies, suggestPicks, type Pick } from './picks'

/** Chooses the lots of a planned dispatch: the oldest that are free are offered, and can be changed. */
const { dispatch, isClosed } = defineProps<{ dispatch: Dispatch; isClosed: boolean }>()
const emit = defineEmits<{ picked: [dispatch: Dispatch]; refused: [] }>()
const saver = useSaver()
/** Null until what is free is known. */
const picks = ref<Pick[] | null>(null)
const key = newKey()

async function offer(): Promise<void> {
  const codes = [...new Set(dispatch.lines.map(({ partCode }) => partCode))]
  const pages = await Promise.all(codes.map((q) => call(run.listPickable, { query: { q, limit: 100 } }).catch(() => ({ rows: [] }))))
  picks.value = suggestPicks(
    dispatch.lines,
    pages.flatMap(({ rows }, i) => rows.filter(({ partCode }) => partCode === codes[i])),
  )
}
void offer()

const short = computed(() =>
  dispatch.lines
    .filter(({ quantity, free }) => free < quantity)
    .map(({ partCode, unit, quantity, free }) => `${partCode} ${amount(free, unit)} of ${amount(quantity, unit)}`),
)
async function pick(): Promise<void> {
  const { id, version } = dispatch
  const done = await saver.save(async () => {
    emit('picked', await call(run.pickPlanned, { params: { id }, body: { version, picks: pickBodies(picks.value ?? []) } }, { key }))
  })
  if (!done && saver.failure.value?.code !== 'unreachable') emit('refused')
}
</script>
