import { ref, watch } from 'vue'

/** Whether the bench is shown on a dark sheet; kept for this browser. */
export const isNight = ref(localStorage.getItem('night') === '1')
watch(isNight, (value) => localStorage.setItem('night', value ? '1' : '0'))
