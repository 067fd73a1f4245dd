<template>
  <div class="find" @focusout="leave">
    <input
      ref="field"
      v-model="words"
      type="search"
      role="combobox"
      aria-label="Find a part, lot, inspection, person"
      aria-controls="found"
      :aria-expanded="isOpen"
      :aria-activedescendant="isOpen && hits[at] ? `hit-${at}` : undefined"
      placeholder="Find a part, lot, inspection, person"
      autocomplete="off"
      @keydown.down.prevent="at = Math.min(hits.length - 1, at + 1)"
      @keydown.up.prevent="at = Math.max(0, at - 1)"
      @keydown.enter.prevent="go(hits[at])"
      @keydown.esc="close"
    />
    <kbd aria-hidden="true">/</kbd>
    <ul v-if="isOpen" id="found" role="listbox" aria-label="Found">
      <li
        v-for="(hit, i) in hits"
        :id="`hit-${i}`"
        :key="hit.kind + hit.id + hit.title"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @mousedown.prevent="go(hit)"
      >
        <span class="kind">{{ kinds[hit.kind]?.words ?? hit.kind }}</span><b>{{ hit.title }}</b
        ><span class="soft">{{ hit.detail }}</span>
      </li>
      <li v-if="hits.length === 0" role="option" aria-selected="false" class="soft">{{ isLoading ? 'Looking …' : 'Nothing found' }}</li>
    </ul>
  </div>
</template>

<script setup lang="ts">
import { type SearchHit, people } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useLatest } from './useLatest'
import { call } from './api'
import { useKeys } from './keys'

const router = useRouter()
const field = ref<HTMLInputElement>()
const words = ref('')
const hits = ref<SearchHit[]>([])
const at = ref(0)
/** Words are looked for when they rest. */
const typingMs = 150
const isOpen = computed(() => words.value.trim() !== '')

/** What each kind of thing is called, and where it is shown. */
const kinds: Record<string, { readonly words: string; readonly to: (hit: SearchHit) => string }> = {
  part: { words: 'part', to: ({ id }) => `/define/parts/${id}` },
  lot: { words: 'lot', to: ({ id }) => `/trace/${id}` },
  container: { words: 'container', to: ({ id }) => `/trace/${id}` },
  serial: { words: 'serial no.', to: ({ id }) => `/trace/${id}` },
  inspection: { words: 'inspection', to: ({ id }) => `/record/${id}` },
  delivery: { words: 'delivery', to: ({ id }) => `/run/${id}` },
  expected: { words: 'expected', to: ({ id }) => `/run/expected/${id}` },
  purchaseOrder: { words: 'purchase', to: ({ id }) => `/run/purchase-orders/${id}` },
  order: { words: 'order', to: ({ id }) => `/run/orders/${id}` },
  dispatch: { words: 'dispatch', to: ({ id }) => `/run/dispatches/${id}` },
  transfer: { words: 'transfer', to: ({ title }) => `/run/transfers?tab=done&q=${encodeURIComponent(title)}` },
  plan: { words: 'plan', to: ({ id }) => `/define/plans/${id}` },
  characteristic: { words: 'characteristic', to: ({ id }) => `/define/characteristics/${id}` },
  person: { words: 'person', to: ({ id }) => `/people/${id}` },
}

const { ask, isWaiting: isLoading } = useLatest()
watch(words, async (value) => {
  const q = value.trim().slice(0, 100)
  const found = await ask(async (signal) => {
    if (q === '') return []
    await new Promise((resolve) => setTimeout(resolve, typingMs))
    return signal.aborted ? [] : (await call(people.search, { query: { q } }, { signal })).hits
  }).catch(() => [])
  if (found === null) return
  hits.value = found
  at.value = 0
})

function close(): void {
  words.value = ''
  field.value?.blur()
}
function leave(): void {
  words.value = ''
}
async function go(hit: SearchHit | undefined): Promise<void> {
  const address = hit && kinds[hit.kind]?.to(hit)
  if (address === undefined) return
  close()
  await router.push(address)
}
const focus = () => field.value?.focus()
useKeys([
  { key: '/', words: 'search', run: focus },
  { key: 'Ctrl+K', words: 'search', run: focus, inFields: true },
])
</script>

<style scoped>
.find {
  margin-left: auto;
  position: relative;
  width: 320px;
  flex: none;
}
input {
  width: 100%;
  height: 30px;
  border: 1px solid #8d8a80;
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 4px 30px 4px 10px;
  font: 14px/20px var(--words);
}
@media (max-width: 700px) {
  .find {
    width: 44%;
    min-width: 120px;
  }
  ul {
    width: min(440px, 94vw);
  }
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
kbd {
  position: absolute;
  right: 8px;
  top: 6px;
}
ul {
  position: absolute;
  z-index: 20;
  top: 34px;
  right: 0;
  width: 440px;
  max-height: 70vh;
  overflow: auto;
  margin: 0;
  padding: 4px;
  list-style: none;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 4px;
  box-shadow: 0 6px 20px rgb(30 42 58 / 18%);
}
li {
  display: flex;
  gap: 8px;
  padding: 5px 8px;
  border-radius: 3px;
  cursor: pointer;
  white-space: nowrap;
  overflow: hidden;
}
li.on {
  background: var(--wash);
}
.kind {
  width: 92px;
  flex: none;
  color: var(--soft);
}
</style>
