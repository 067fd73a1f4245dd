import { ref } from 'vue'

/** Why nothing can be stored now, as the server said it last; null while all is well. */
export const storageTrouble = ref<string | null>(null)
