<template>
  <AreaNav label="Work at the bench" :groups="groups" :current="current" />
</template>

<script setup lang="ts">
import AreaNav from '../components/AreaNav.vue'

/** The queue of all, the own day, and who does what on which day. */
defineProps<{ current: '/record' | '/record/day' | '/record/planning' }>()
const groups = [
  {
    links: [
      { to: '/record', words: 'Queue' },
      { to: '/record/day', words: 'My day' },
      { to: '/record/planning', words: 'Planning' },
    ],
  },
]
</script>
