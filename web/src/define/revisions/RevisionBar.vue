<template>
  <div class="bar">
    <label v-for="revision in revisions" :key="revision.id" :class="{ on: revision.id === shownId }">
      <input type="radio" name="revision" :value="revision.id" :checked="revision.id === shownId" @change="emit('choose', revision.id)" />
      revision {{ revision.revision }} <span :class="revision.state === 'draft' ? 'marginal' : 'soft'">{{ revision.state }}</span>
    </label>
    <span v-if="shown?.releasedAt" class="soft small"
      >released {{ momentOf(shown.releasedAt) }} by {{ shown.releasedByName
      }}{{ shown.effectiveFrom ? `, used from ${dayWords(shown.effectiveFrom)}` : '' }}</span
    >
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { dayWords, momentOf } from '../../format/format'

/** The revisions of a definition, newest first. */
interface Revision {
  id: string
  revision: number
  state: string
  releasedAt: string | null
  releasedByName: string | null
  effectiveFrom?: string | null
}
const { revisions, shownId } = defineProps<{ revisions: readonly Revision[]; shownId: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const shown = computed(() => revisions.find((revision) => revision.id === shownId))
</script>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
label {
  padding: 1px 8px;
  border: 1px solid var(--rule);
  border-radius: 12px;
  cursor: pointer;
}
label.on {
  border-color: var(--indigo);
  color: var(--indigo);
  font-weight: 600;
}
label:focus-within {
  outline: 2px solid var(--indigo);
  outline-offset: 1px;
}
input {
  position: absolute;
  opacity: 0;
}
</style>
