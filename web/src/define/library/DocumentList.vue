<template>
  <section class="documents" aria-label="Pictures and documents">
    <div class="row">
      <h2 class="grow minor">Pictures and documents</h2>
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
    <DocumentShelf v-if="ids.length > 0" :ids="ids">
      <template #after="{ document }"
        ><TakeOut v-if="!isFixed" :name="document.name" @click="ids = ids.filter((id) => id !== document.id)"
      /></template>
    </DocumentShelf>
    <p v-else class="soft small">
      None. A reference picture says more than a paragraph: PNG, JPEG, PDF, or a 3D model as glTF (.glb), up to 10 MB each.
    </p>
  </section>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { asFailure } from '../../shell/api'
import { keepDocument } from '../../shell/uploads'
import DocumentShelf from '../../components/DocumentShelf.vue'
import TakeOut from '../../components/TakeOut.vue'

/** Files that a definition shows: reference pictures, drawings, certificates. */
defineProps<{ isFixed: boolean }>()
const ids = defineModel<string[]>({ required: true })
const problem = ref('')
async function upload(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  problem.value = ''
  for (const file of input.files ?? []) {
    try {
      const kept = await keepDocument(file)
      ids.value = [...ids.value, kept.id]
    } catch (error) {
      problem.value = `${file.name}: ${asFailure(error).message}`
    }
  }
  input.value = ''
}
</script>

<style scoped>
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
</style>
