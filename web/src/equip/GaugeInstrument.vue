<template>
  <section class="stack" aria-label="Values that it sends">
    <h2 class="minor">Values that it sends</h2>
    <p class="soft small">
      <template v-if="data?.instrument"
        >It has a key since {{ momentOf(data.instrument.givenAt) }}, given by {{ data.instrument.givenByName }}.
        {{
          data.instrument.heardAt ? `Heard of last ${momentOf(data.instrument.heardAt)}.` : 'It has not been heard of since the server started.'
        }}</template
      ><template v-else>Somebody types what it shows. An instrument that can send gets a key here, and is pressed into the bench then.</template>
    </p>
    <div v-if="given" class="key" role="status" data-test="instrument-key">
      <p>The key of {{ gauge.code }}, shown this once. Put it into the instrument:</p>
      <p class="row">
        <code class="m">{{ given }}</code><v-btn size="small" variant="text" @click="given = ''">Done</v-btn>
      </p>
    </div>
    <ErrorNote :failure="saver.note.value" />
    <p v-if="mayGive && gauge.state !== 'retired'" class="row">
      <v-btn variant="outlined" :color="data?.instrument ? undefined : 'primary'" data-test="give-key" @click="give">{{
        data?.instrument ? 'Give it a new key …' : 'Give it a key …'
      }}</v-btn>
      <v-btn v-if="data?.instrument" variant="text" data-test="end-key" @click="endKey">End its key …</v-btn>
    </p>
    <div v-if="data?.instrument || data?.hasSent" class="sent">
      <DataList
        name="sent values"
        :endpoint="equip.listSentValues"
        :columns="columns"
        :query="{ gaugeId: gauge.id }"
        empty-text="It has sent nothing yet."
        :to="(row: SentValueRow) => (row.inspectionId ? `/record/${row.inspectionId}` : `/equip/gauges/${gauge.id}`)"
      />
    </div>
  </section>
</template>

<script setup lang="ts">
import { equip, mayCall, type Gauge, type SentValueRow } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { ask } from '../shell/ask'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import DataList from '../components/DataList.vue'
import ErrorNote from '../components/ErrorNote.vue'
import type { ListColumn } from '../components/listColumn'
import { useSaver } from '../composables/useSaver'
import { momentOf } from '../format/format'

/** The gauge as an instrument: its key, when it was heard of, and everything that it sent with what became of it. */
const { gauge } = defineProps<{ gauge: Gauge }>()
const session = useSession()
const mayGive = computed(() => mayCall(equip.giveInstrumentKey, session.person?.roles ?? null))
const saver = useSaver()
const given = ref('')
const { data, reload } = useThing(
  () => equip.getInstrument,
  () => ({ params: { id: gauge.id } }),
)
const outcomeWords = { heard: 'a bench heard it', unheard: 'no bench listened', doubled: 'the same press once more' } as const
const columns: ListColumn[] = [
  { key: 'pressedAt', title: 'Pressed', format: (value: string) => momentOf(value) },
  { key: 'value', title: 'Value', isNumber: true },
  { key: 'unit', title: 'Unit' },
  { key: 'outcome', title: 'What became of it', format: (value: SentValueRow['outcome']) => outcomeWords[value] },
  { key: 'inspectionCode', title: 'Inspection', isMono: true },
  { key: 'isTaken', title: 'Reading', format: (value: boolean) => (value ? 'stands on it' : 'not taken') },
]

async function give(): Promise<void> {
  const text = data.value?.instrument
    ? 'The key that it has ends at once: it sends nothing more until the new one is in it.'
    : 'Whoever has the key can send values as this gauge. It is shown once.'
  if ((await ask({ title: `A key for ${gauge.code}?`, text, yes: 'Give it a key' })) === null) return
  await saver.save(async () => {
    given.value = (await call(equip.giveInstrumentKey, { params: { id: gauge.id } })).key
    await reload()
  })
}
async function endKey(): Promise<void> {
  const text = 'Nothing that it sends is taken any more. What it sent stays.'
  if ((await ask({ title: `End the key of ${gauge.code}?`, text, yes: 'End it' })) === null) return
  await saver.save(async () => {
    await call(equip.endInstrumentKey, { params: { id: gauge.id } })
    given.value = ''
    await reload()
    notify(`${gauge.code} sends nothing more.`)
  })
}
</script>

<style scoped>
.stack > p {
  margin: 0;
}
.sent {
  border: 1px solid var(--rule);
  height: 300px;
}
.key {
  border-left: 3px solid var(--indigo);
  padding: 6px 12px;
}
.key p {
  margin: 0 0 4px;
}
.key code {
  overflow-wrap: anywhere;
  user-select: all;
}
</style>
