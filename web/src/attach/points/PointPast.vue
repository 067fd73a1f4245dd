<template>
  <details class="past" data-test="point-past" @toggle="load">
    <summary>What it has said before</summary>
    <ErrorNote :failure="failure" />
    <ol v-if="changes" class="stack">
      <li v-for="(change, i) in changes" :key="i" class="small">
        <b>{{ change.action }}</b> <span class="soft">{{ momentOf(change.at) }}{{ change.byName ? `, ${change.byName}` : '' }}</span>
        <ul v-if="change.action !== 'attached'">
          <li v-for="entry in change.fields" :key="entry.field">
            {{ pointFields[entry.field] ?? entry.field }}: <span class="soft">{{ entry.before || '–' }}</span> → {{ entry.after || '–' }}
          </li>
        </ul>
      </li>
    </ol>
  </details>
</template>

<script setup lang="ts">
import { type PointChange, attach } from '@nemawashi/contract'
import { ref } from 'vue'
import { call } from '../../shell/api'
import ErrorNote from '../../components/ErrorNote.vue'
import { momentOf } from '../../format/format'
import { useSaver } from '../../composables/useSaver'
import { pointFields } from './pointDraft'

/** What a control point has said before, newest first: what was changed, by whom and when. Fetched when somebody opens it. */
const { pointId } = defineProps<{ pointId: string }>()
const changes = ref<readonly PointChange[] | null>(null)
const { failure, save } = useSaver()
async function load(event: Event): Promise<void> {
  if (!(event.target as HTMLDetailsElement).open || changes.value) return
  await save(async () => {
    changes.value = (await call(attach.getControlPointPast, { params: { id: pointId } })).changes
  })
}
</script>

<style scoped>
summary {
  padding: 4px 0;
  cursor: pointer;
  color: var(--indigo);
  font-weight: 600;
}
ol {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
</style>
