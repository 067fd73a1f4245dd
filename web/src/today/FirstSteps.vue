<template>
  <section v-if="steps" aria-label="First steps" data-test="first-steps">
    <h2>First steps</h2>
    <p class="soft">What a plant needs before its first delivery can be inspected, in this order.</p>
    <ol>
      <li v-for="step in steps" :key="step.words" :class="{ done: step.isDone }">
        <MarkSign :mark="step.isDone ? 'conforming' : 'notJudged'" />
        <span class="grow"
          ><router-link :to="step.to">{{ step.words }}</router-link> <span class="soft small">{{ step.why }}</span></span
        >
      </li>
    </ol>
  </section>
</template>

<script setup lang="ts">
import { type Endpoint, type ListPage, attach, define, people, run } from '@nemawashi/contract'
import { onMounted, ref } from 'vue'
import { askFor } from '../shell/api'
import MarkSign from '../components/MarkSign.vue'

/** What an empty plant wants first, ticked off as it is done; gone with the first delivery. */
interface Step {
  words: string
  why: string
  to: string
  isDone: boolean
}
const steps = ref<Step[] | null>(null)
const rowsOf = (endpoint: Endpoint, query: object = {}) => askFor<ListPage<Record<string, unknown>>>(endpoint, { query: { limit: 100, ...query } })

onMounted(async () => {
  if ((await rowsOf(run.listDeliveries)).total > 0) return
  const [team, places, partners, operations, parts, characteristics, plans, points] = await Promise.all([
    rowsOf(people.listPeople),
    rowsOf(define.places.list),
    rowsOf(define.partners.list),
    rowsOf(define.operations.list),
    rowsOf(define.parts.list),
    rowsOf(define.listCharacteristics, { state: 'released' }),
    rowsOf(define.listPlans, { state: 'released' }),
    rowsOf(attach.listControlPoints, { state: 'active' }),
  ])
  const purposes = new Set(places.rows.map((place) => place['purpose']))
  const missing = ['dock', 'inspection', 'store', 'quarantine', 'scrap', 'outside'].filter((purpose) => !purposes.has(purpose))
  steps.value = [
    { words: 'Add the people', why: 'an engineer, an inspector, a receiving clerk and a quality manager', to: '/people/new', isDone: team.total > 1 },
    {
      words: 'Name the places',
      why: missing.length === 0 ? 'one for each purpose' : `still without: ${missing.join(', ')}`,
      to: '/define/places/new',
      isDone: missing.length === 0,
    },
    {
      words: 'Enter a supplier',
      why: 'who delivers',
      to: '/define/partners/new',
      isDone: partners.rows.some((partner) => partner['kind'] === 'supplier'),
    },
    {
      words: 'Enter the receiving operation',
      why: 'where deliveries are inspected',
      to: '/define/operations/new',
      isDone: operations.rows.some((operation) => operation['kind'] === 'receiving'),
    },
    { words: 'Enter a part with its routing', why: 'receiving first', to: '/define/parts/new', isDone: parts.total > 0 },
    { words: 'Define and release a characteristic', why: 'what is inspected', to: '/define/characteristics/new', isDone: characteristics.total > 0 },
    { words: 'Put it into a plan and release that', why: 'how many pieces, and what is accepted', to: '/define/plans/new', isDone: plans.total > 0 },
    { words: 'Attach the plan to receiving', why: 'a control point on the flow line of the part', to: '/attach', isDone: points.total > 0 },
    { words: 'Book in the first delivery', why: 'its inspections open by themselves', to: '/run/new', isDone: false },
  ]
})
</script>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 0;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
}
.done a {
  color: var(--soft);
}
.done .mark {
  color: var(--conforming);
}
</style>
