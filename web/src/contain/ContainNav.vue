<template>
  <AreaNav label="What is held back" :groups="groups" :current="current" />
</template>

<script setup lang="ts">
import AreaNav from '../components/AreaNav.vue'

/** Lots that are held, and lines on which nothing is accepted any more. */
defineProps<{ current: '/contain' | '/contain/stops' }>()
const groups = [
  {
    links: [
      { to: '/contain', words: 'Held lots' },
      { to: '/contain/stops', words: 'Inspection discontinued' },
    ],
  },
]
</script>
