<template>
  <div class="editor">
    <template v-if="!isFixed">
      <div class="bar" role="toolbar" :aria-label="`Style of ${label}`">
        <button
          v-for="button in buttons"
          :key="button.style"
          type="button"
          :title="button.title"
          :aria-label="button.title"
          @click="apply(button.style)"
        >
          <component :is="button.tag">{{ button.sign }}</component>
        </button>
      </div>
      <v-textarea ref="area" v-model="text" :label="label" :rows="3" auto-grow :data-field="field" @keydown="byKey" />
    </template>
    <template v-if="text !== '' && (isFixed || isStyled)">
      <p class="soft small">{{ isFixed ? label : 'as the inspector reads it' }}</p>
      <RichText :text="text" class="shown" />
    </template>
    <p v-else-if="isFixed" class="soft small">{{ label }}: none.</p>
  </div>
</template>

<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import RichText from './RichText.vue'
import { styled, type Style } from '../format/richText'

/** A text with strong and emphasised parts, lists and steps, shown below as it will be read. Ctrl+B and Ctrl+I work as anywhere. */
defineProps<{ label: string; field: string; isFixed: boolean }>()
const text = defineModel<string>({ required: true })
const area = ref<{ $el: HTMLElement }>()
const buttons: readonly { style: Style; sign: string; tag: string; title: string }[] = [
  { style: 'strong', sign: 'B', tag: 'b', title: 'strong (Ctrl+B)' },
  { style: 'emphasis', sign: 'I', tag: 'i', title: 'emphasised (Ctrl+I)' },
  { style: 'points', sign: '• list', tag: 'span', title: 'list' },
  { style: 'steps', sign: 'steps', tag: 'span', title: 'numbered steps' },
]
const isStyled = computed(() => /\*|^#|^- |^\d+\. /m.test(text.value))

async function apply(style: Style): Promise<void> {
  const field = area.value?.$el.querySelector('textarea')
  if (!field) return
  const next = styled(text.value, field.selectionStart, field.selectionEnd, style)
  text.value = next.text
  await nextTick()
  field.focus()
  field.setSelectionRange(next.from, next.to)
}
function byKey(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.altKey) return
  const style = ({ b: 'strong', i: 'emphasis' } as const)[event.key.toLowerCase() as 'b' | 'i']
  if (!style) return
  event.preventDefault()
  void apply(style)
}
</script>

<style scoped>
.bar {
  display: flex;
  gap: 4px;
  margin-bottom: 6px;
}
.bar button {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px/24px var(--words);
  padding: 0 8px;
  cursor: pointer;
}
.bar button:hover {
  text-decoration: underline;
}
.editor > p {
  margin: 0;
}
.shown {
  border-left: 3px solid var(--rule);
  padding-left: 12px;
}
</style>
