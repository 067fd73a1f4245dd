<template>
  <ul v-if="documents.length > 0" class="shelf" aria-label="Pictures and documents">
    <li v-for="document in documents" :key="document.id">
      <a v-if="document.mediaType === 'application/pdf'" :href="addressOf(document)" target="_blank" rel="noopener">{{ document.name }}</a>
      <button v-else type="button" class="look" :data-document="document.name" @click="shown = document">
        <img v-if="document.mediaType.startsWith('image/')" :src="addressOf(document)" :alt="document.name" /><span>{{ document.name }}</span>
      </button>
      <span class="soft small">{{ kind(document.mediaType) }}, {{ Math.ceil(document.size / 1024) }} kB</span>
      <slot name="after" :document="document" />
    </li>
  </ul>
  <v-dialog :model-value="shown !== null" width="860" aria-label="Document" @update:model-value="shown = null">
    <v-card v-if="shown" :title="shown.name">
      <v-card-text>
        <img v-if="shown.mediaType.startsWith('image/')" :src="addressOf(shown)" :alt="shown.name" class="large" />
        <ModelView v-else :name="shown.name" :address="addressOf(shown)" />
      </v-card-text>
      <v-card-actions
        ><a class="get" :href="addressOf(shown)" :download="shown.name">Keep a copy</a><v-spacer /><v-btn @click="shown = null"
          >Close</v-btn
        ></v-card-actions
      >
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { type DocumentHead, define } from '@nemawashi/contract'
import { defineAsyncComponent, ref, watch } from 'vue'
import { call } from '../shell/api'

/** Reference pictures, drawings and models: pictures and models open in the page, a PDF beside it. */
const ModelView = defineAsyncComponent(() => import('./ModelView.vue'))
const { ids } = defineProps<{ ids: readonly string[] }>()
const documents = ref<DocumentHead[]>([])
const shown = ref<DocumentHead | null>(null)
const emit = defineEmits<{ closed: [] }>()
watch(shown, (now) => now ?? emit('closed'))
watch(
  () => ids,
  async (wanted) => {
    const known = new Map(documents.value.map((document) => [document.id, document]))
    const found = await Promise.all(wanted.map(async (id) => known.get(id) ?? call(define.getDocument, { params: { id } }).catch(() => null)))
    documents.value = found.filter((document) => document !== null)
  },
  { immediate: true },
)
const kinds: Readonly<Record<string, string>> = {
  'image/png': 'picture',
  'image/jpeg': 'picture',
  'application/pdf': 'PDF',
  'model/gltf-binary': '3D model',
}
const kind = (mediaType: string) => kinds[mediaType] ?? mediaType
const addressOf = ({ id }: DocumentHead) => `/api/v1/documents/${id}/content`
</script>

<style scoped>
.shelf {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
}
.look {
  display: flex;
  gap: 8px;
  align-items: center;
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: var(--indigo);
  text-decoration: underline;
  cursor: pointer;
}
li img {
  height: 56px;
  border: 1px solid var(--rule);
}
.large {
  width: 100%;
}
.get {
  padding: 0 16px;
}
</style>
