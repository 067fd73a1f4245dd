<template>
  <AreaNav
    label="What is measured with"
    :groups="[
      {
        words: 'Gauges',
        links: [
          { to: '/equip/gauges', words: 'Register' },
          { to: '/define/gauge-kinds', words: 'Kinds of gauges' },
        ],
      },
    ]"
    current="/equip/gauges"
  />
</template>

<script setup lang="ts">
import AreaNav from '../components/AreaNav.vue'
</script>
