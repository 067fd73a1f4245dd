<template>
  <SheetSplit list-words="Discontinued inspections" left="minmax(430px, 42%)">
    <template #nav><ContainNav current="/contain/stops" /></template>
    <template #list>
      <DataList
        ref="list"
        name="stops"
        :endpoint="contain.listStops"
        :columns="columns"
        title="Inspection discontinued"
        :selected-id="id"
        empty-text="Inspection is discontinued nowhere."
        :to="(row: AcceptanceStop) => ({ path: `/contain/stops/${row.id}`, query: route.query })"
      />
    </template>
    <div v-if="stop" class="sheet stack">
      <h1>
        {{ stop.characteristicName }}
        <span class="soft">· {{ stop.partCode }} {{ stop.partName }}{{ stop.partnerName ? `, ${stop.partnerName}` : '' }}</span>
      </h1>
      <p>
        <b class="nonconforming">{{ upperFirst(severityWords.discontinued) }}</b> since {{ momentOf(stop.at) }}, at {{ stop.operationName }}:
        {{ describeSwitch({ kind: 'refusedTightened', refused: discontinueAfter }) }}, the last one
        <router-link :to="`/record/${stop.inspectionId}`">{{ stop.inspectionCode }}</router-link> ({{ stop.planName }}).
      </p>
      <ol class="lots" aria-label="Its lots, oldest first" data-test="lots">
        <li v-for="(lot, i) in stop.lots" :key="lot.inspectionId" :class="{ first: lot.under !== stop.lots[i - 1]?.under }">
          <span class="soft small state">{{ lot.under === stop.lots[i - 1]?.under ? '' : lot.under }}</span>
          <router-link
            :to="`/record/${lot.inspectionId}`"
            :title="`${lot.inspectionCode}, ${momentOf(lot.finishedAt)}`"
            :class="lot.isAccepted ? 'conforming' : 'nonconforming'"
          >
            <MarkSign :mark="lot.isAccepted ? 'conforming' : 'nonconforming'" />
            <span class="sr-only">{{ lot.inspectionCode }}: {{ lot.isAccepted ? 'accepted' : 'not accepted' }} under {{ lot.under }} inspection</span>
          </router-link>
        </li>
      </ol>
      <p class="soft">
        What arrives meanwhile is still inspected, on tightened inspection, but no sample lets it pass: a person decides on each lot. Acceptance
        begins again once what was wrong is mended; it begins on tightened inspection.
      </p>
      <p v-if="stop.endedAs !== null" data-test="ended">
        {{ stop.endedAs === 'answered' ? 'Let begin again' : 'Ended, because the inspection was opened again,' }}
        {{ momentOf(stop.endedAt ?? '') }} by {{ stop.endedByName }}{{ stop.reason ? `: ${stop.reason}` : '' }}.
      </p>
      <form v-else-if="mayAnswer" class="stack" @submit.prevent="answer">
        <v-textarea
          v-model="reason"
          rows="3"
          label="What was mended, and how is it known?"
          :error-messages="saver.fieldErrors.value['reason']"
          data-field="reason"
        />
        <ErrorNote :failure="saver.note.value" />
        <div><v-btn type="submit" color="primary" :loading="saver.isBusy.value" data-test="answer">Let acceptance begin again</v-btn></div>
      </form>
      <p v-else class="soft">A quality manager lets acceptance begin again.</p>
    </div>
    <EmptyState
      v-else
      title="Where inspection is discontinued"
      :text="
        failure?.message ??
        'The switching rules stop acceptance when too many lots of a line were not accepted under tightened inspection. Choose one to see why, and to let it begin again.'
      "
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { discontinueAfter, describeSwitch, severityWords } from '@nemawashi/core'
import { type AcceptanceStop, contain, upperFirst } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { call } from '../shell/api'
import { useCrumbs } from '../shell/crumbs'
import { notify } from '../shell/notify'
import { useSession } from '../shell/session'
import { useThing } from '../shell/queries'
import { useUnsaved } from '../shell/unsaved'
import DataList from '../components/DataList.vue'
import MarkSign from '../components/MarkSign.vue'
import EmptyState from '../components/EmptyState.vue'
import ErrorNote from '../components/ErrorNote.vue'
import { momentOf, since } from '../format/format'
import type { ListColumn } from '../components/listColumn'
import SheetSplit from '../components/SheetSplit.vue'
import { useSaver } from '../composables/useSaver'
import ContainNav from './ContainNav.vue'

/** Lines on which nothing is accepted by sample any more, and how a person lets it begin again. */
const route = useRoute()
const list = ref<{ reload: () => Promise<void> }>()
const mayAnswer = useSession().may(contain.answerStop)
const saver = useSaver()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const { data: stop, failure, put } = useThing(contain.getStop, () => (id.value === null ? null : { params: { id: id.value } }))
const reason = ref('')
useCrumbs(() => [{ words: 'Contain', to: '/contain' }, { words: 'Inspection discontinued' }])
watch(id, () => {
  reason.value = ''
  saver.clear()
})
useUnsaved(
  () => reason.value !== '',
  () => 'why acceptance may begin again',
)
const columns: ListColumn[] = [
  { key: 'partCode', title: 'Part' },
  { key: 'characteristicName', title: 'Line' },
  { key: 'partnerName', title: 'Supplier' },
  { key: 'planName', title: 'Plan', isHidden: true },
  { key: 'operationName', title: 'Operation', isHidden: true },
  { key: 'at', title: 'For', isNumber: true, format: (value: string) => since(value) },
  { key: 'endedAs', title: 'State', format: (value: string | null) => (value === null ? 'stopped' : 'ended') },
]
async function answer(): Promise<void> {
  const now = stop.value
  if (!now) return
  await saver.save(async () => {
    put(await call(contain.answerStop, { params: { id: now.id }, body: { version: now.version, reason: reason.value } }))
    reason.value = ''
    notify('Acceptance begins again, on tightened inspection.')
    await list.value?.reload()
  })
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
  max-width: 760px;
}
.lots {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 0;
  padding: 0;
}
.lots li {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  gap: 2px;
  min-width: 26px;
}
.lots li.first {
  border-left: 2px solid var(--rule);
  padding-left: 8px;
}
.lots .state {
  height: 18px;
  white-space: nowrap;
}
.lots a {
  padding: 2px;
  width: max-content;
}
.sheet p {
  margin: 0;
}
</style>
