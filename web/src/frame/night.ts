import { computed, ref } from 'vue'

const query = typeof matchMedia === 'function' ? matchMedia('(prefers-color-scheme: dark)') : null
const isSystemDark = ref(query?.matches ?? false)
query?.addEventListener('change', ({ matches }) => (isSystemDark.value = matches))

/** What was chosen at the bench of this browser; null: as the system is. */
const chosen = ref<boolean | null>(({ '1': true, '0': false } as Record<string, boolean>)[localStorage.getItem('night') ?? ''] ?? null)

/** Whether a page is shown on a dark sheet: as the system is, and on the bench as was chosen there. */
export const isDark = (isBench: boolean) => computed(() => (isBench ? (chosen.value ?? isSystemDark.value) : isSystemDark.value))

export function toggleNight(): void {
  chosen.value = !(chosen.value ?? isSystemDark.value)
  localStorage.setItem('night', chosen.value ? '1' : '0')
}
