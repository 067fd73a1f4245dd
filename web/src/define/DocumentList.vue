<template>
  <section class="documents" aria-label="Pictures and documents">
    <div class="row">
      <h3 class="grow">Pictures and documents</h3>
      <label v-if="!isFixed" class="pick"
        >Add a file<input
          type="file"
          accept="image/png,image/jpeg,application/pdf,model/gltf-binary,.glb"
          multiple
          data-field="document"
          @change="upload"
      /></label>
    </div>
    <p v-if="problem" class="nonconforming small" role="alert">{{ problem }}</p>
    <ul v-if="documents.length > 0">
      <li v-for="document in documents" :key="document.id">
        <a :href="`/api/documents/${document.id}/content`" target="_blank" rel="noopener">
          <img v-if="document.mediaType.startsWith('image/')" :src="`/api/documents/${document.id}/content`" :alt="document.name" />
          <span>{{ document.name }}</span></a
        >
        <span class="soft small">{{ kind(document.mediaType) }}, {{ Math.ceil(document.size / 1024) }} kB</span>
        <button v-if="!isFixed" type="button" :aria-label="`Take ${document.name} out`" @click="ids = ids.filter((id) => id !== document.id)">
          ✕
        </button>
      </li>
    </ul>
    <p v-else class="soft small">
      None. A reference picture says more than a paragraph: PNG, JPEG, PDF, or a 3D model as glTF (.glb), up to 10 MB each.
    </p>
  </section>
</template>

<script setup lang="ts">
import { endpoints, type DocumentHead } from '@nemawashi/contract'
import { ref, watch } from 'vue'
import { asFailure, call } from '../frame/api'
import { fileContent } from '../frame/fileContent'

/** Files that a definition shows: reference pictures, drawings, certificates. */
defineProps<{ isFixed: boolean }>()
const ids = defineModel<string[]>({ required: true })
const documents = ref<DocumentHead[]>([])
const problem = ref('')
watch(
  ids,
  async (wanted) => {
    const known = new Map(documents.value.map((document) => [document.id, document]))
    documents.value = await Promise.all(wanted.map(async (id) => known.get(id) ?? call(endpoints.define.getDocument, { params: { id } })))
  },
  { immediate: true },
)
/** What a file is by its ending; browsers do not know all of them. */
const endings: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  pdf: 'application/pdf',
  glb: 'model/gltf-binary',
}
const kinds: Readonly<Record<string, string>> = {
  'image/png': 'picture',
  'image/jpeg': 'picture',
  'application/pdf': 'PDF',
  'model/gltf-binary': '3D model',
}
const kind = (mediaType: string) => kinds[mediaType] ?? mediaType

async function upload(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  problem.value = ''
  for (const file of input.files ?? []) {
    try {
      const mediaType = (endings[file.name.split('.').at(-1)?.toLowerCase() ?? ''] ?? file.type) as DocumentHead['mediaType']
      const kept = await call(endpoints.define.addDocument, { body: { name: file.name, mediaType, content: await fileContent(file) } } as never)
      ids.value = [...ids.value, kept.id]
    } catch (error) {
      problem.value = `${file.name}: ${asFailure(error).message}`
    }
  }
  input.value = ''
}
</script>

<style scoped>
ul {
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
img {
  height: 56px;
  border: 1px solid var(--rule);
  vertical-align: middle;
  margin-right: 8px;
}
.pick {
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
}
.pick:focus-within {
  outline: 2px solid var(--indigo);
}
.pick input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
button {
  border: 0;
  background: none;
  color: var(--indigo);
  cursor: pointer;
}
</style>
