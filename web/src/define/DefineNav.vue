<template>
  <AreaNav label="What to define" :groups="groups" :current="`/define/${current}`" />
</template>

<script setup lang="ts">
import AreaNav from '../components/AreaNav.vue'

/** What can be defined, in two groups above the list: what is inspected, and the plant's own lists that it rests on. */
defineProps<{ current: string }>()
const link = (path: string, words: string) => ({ to: `/define/${path}`, words })
const groups = [
  {
    words: 'What is inspected',
    links: [link('characteristics', 'Characteristics'), link('plans', 'Plans'), link('sampling', 'Sampling'), link('import', 'Import')],
  },
  {
    words: "The plant's own lists",
    links: [
      link('parts', 'Parts'),
      link('families', 'Families'),
      link('partners', 'Partners'),
      link('places', 'Places'),
      link('operations', 'Operations'),
      link('answer-lists', 'Answer lists'),
      link('fault-codes', 'Fault codes'),
      link('finer-standings', 'Restrictions'),
      link('measure-units', 'Units of measure'),
      link('gauge-kinds', 'Kinds of gauges'),
      link('count-units', 'Count units'),
      link('classes', 'Classes'),
      link('reasons', 'Reasons'),
    ],
  },
]
</script>
