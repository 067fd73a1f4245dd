<template>
  <ul v-if="evidence.length > 0" class="evidence small" aria-label="Faults, remarks and pictures" data-test="evidence">
    <li v-for="entry in evidence" :key="entry.id">
      <MarkedPicture
        v-if="entry.document?.mediaType.startsWith('image/')"
        :name="entry.document.name"
        :address="addressOf(entry.document)"
        :model-value="entry.place"
        is-fixed
      />
      <span
        >{{ describeEvidence(entry) }}<template v-if="entry.faultName"> ({{ entry.faultName }})</template
        ><template v-if="entry.document"
          >, <a :href="addressOf(entry.document)" target="_blank" rel="noopener">{{ entry.document.name }}</a></template
        >
        <span class="soft"> {{ entry.byName }}, {{ momentOf(entry.at) }}</span> <slot :entry="entry" />
      </span>
    </li>
  </ul>
</template>

<script setup lang="ts">
import type { Evidence } from '@nemawashi/contract'
import { describeEvidence } from '@nemawashi/core'
import { momentOf } from '../format/format'
import MarkedPicture from './MarkedPicture.vue'

/** What was said of pieces beyond their answers, with its pictures. */
defineProps<{ evidence: readonly Evidence[] }>()
const addressOf = ({ id }: { id: string }) => `/api/v1/documents/${id}/content`
</script>

<style scoped>
.evidence {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
}
li :deep(img) {
  max-width: 120px;
  max-height: 80px;
}
</style>
