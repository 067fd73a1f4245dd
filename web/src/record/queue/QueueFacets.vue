<template>
  <nav class="facets" aria-label="Narrow down">
    <h3>Narrow down</h3>
    <p v-for="{ name, words } in rest" :key="name" class="small chosen">
      <router-link :to="{ path: '/record', query: without(name) }" :aria-label="`No longer narrowed down to ${words}`">{{ words }} ×</router-link>
    </p>
    <p v-if="failure" class="nonconforming small">{{ failure.message }}</p>
    <section v-for="name in facetNames" :key="name" :aria-label="facetWords[name]">
      <template v-if="facets && (facets[name].length > 1 || narrowing[name])">
        <h4>{{ facetWords[name] }}</h4>
        <router-link
          v-for="{ value, name: words, count } in shown(name)"
          :key="value"
          :to="{ path: '/record', query: toggled(route.query, name, value) }"
          :class="{ on: narrowing[name] === value, late: name === 'due' && value === 'late' }"
          :data-facet="`${name} ${words}`"
          ><span class="words">{{ words }}</span
          ><span class="m">{{ narrowing[name] === value ? '×' : count }}</span></router-link
        >
        <button v-if="shown(name).length < facets[name].length" class="more" @click="opened.push(name)">all {{ facets[name].length }} …</button>
      </template>
    </section>
    <p v-if="facets && facets.due.length === 0" class="soft small">Nothing to narrow down.</p>
  </nav>
</template>

<script setup lang="ts">
import { type Facet, type QueueFacets, type QueueState, record } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, type LocationQuery } from 'vue-router'
import { useThing } from '../../shell/queries'
import { facetNames, facetWords, narrowingOf, restWords, toggled } from './narrowing'

/** How the queue can be narrowed down, each way a link with how many it leaves: the list that it opens has exactly those. */
const { state } = defineProps<{ state: QueueState }>()
const route = useRoute()
const narrowing = computed(() => narrowingOf(route.query))
const { data: facets, failure } = useThing(record.getFacets, () => {
  const { lotId: _, ...query } = narrowing.value
  const q = typeof route.query['q'] === 'string' ? route.query['q'] : undefined
  return { query: { ...query, state, ...(q === undefined ? {} : { q }) } as never }
})
const rest = computed(() => restWords(narrowing.value, facets.value))
const few = 5
const opened = ref<(keyof QueueFacets)[]>([])
function shown(name: keyof QueueFacets): Facet[] {
  const all = facets.value?.[name] ?? []
  return opened.value.includes(name) || all.length <= few + 1 ? all : all.slice(0, few)
}
function without(name: string): LocationQuery {
  return Object.fromEntries(Object.entries(route.query).filter(([key]) => key !== name))
}
</script>

<style scoped>
.facets {
  width: 190px;
  flex: none;
  border-right: 1px solid var(--rule);
  padding: 12px 0 20px;
  overflow: auto;
  background: var(--paper);
}
h3,
h4,
p {
  margin: 0;
  padding: 0 16px;
}
h4 {
  font: 600 12.5px/16px var(--words);
  color: var(--soft);
  margin-top: 12px;
}
section a {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  padding: 3px 16px;
  color: inherit;
  text-decoration: none;
}
section a:hover {
  background: color-mix(in srgb, var(--wash) 60%, transparent);
}
.words {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
a.on {
  background: var(--wash);
  font-weight: 600;
  box-shadow: inset 4px 0 0 var(--indigo);
}
a.late .m {
  color: var(--nonconforming);
  font-weight: 600;
}
.chosen {
  padding-top: 6px;
}
.more {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 13px var(--words);
  padding: 2px 16px;
  min-height: 24px;
  cursor: pointer;
}
@media (max-width: 900px) {
  .facets {
    display: none;
  }
}
</style>
