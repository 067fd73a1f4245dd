<template>
  <AreaNav label="What happens to lots" :groups="groups" :current="current" />
</template>

<script setup lang="ts">
import AreaNav from '../components/AreaNav.vue'

/** What happens to lots on their way, in the order in which it does. */
defineProps<{
  current:
    | '/run/purchase-orders'
    | '/run/expected'
    | '/run'
    | '/run/orders'
    | '/run/dispatches'
    | '/run/transfers'
    | '/run/stock'
    | '/run/places'
    | '/run/feed'
}>()
const groups = [
  {
    links: [
      { to: '/run/purchase-orders', words: 'Purchase orders' },
      { to: '/run/expected', words: 'Expected' },
      { to: '/run', words: 'Deliveries' },
      { to: '/run/orders', words: 'Production orders' },
      { to: '/run/dispatches', words: 'Dispatches and returns' },
      { to: '/run/transfers', words: 'Transfers' },
      { to: '/run/stock', words: 'Stock' },
    ],
  },
  {
    words: 'Rules, and another system',
    links: [
      { to: '/run/places', words: 'Put-away rules' },
      { to: '/run/feed', words: 'Order feed' },
    ],
  },
]
</script>
