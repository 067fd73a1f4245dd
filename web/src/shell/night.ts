import { computed, ref } from 'vue'

/** Whether something holds of the screen, as it changes. */
function follow(condition: string) {
  const query = typeof matchMedia === 'function' ? matchMedia(condition) : null
  const holds = ref(query?.matches ?? false)
  query?.addEventListener('change', ({ matches }) => (holds.value = matches))
  return holds
}
const isSystemDark = follow('(prefers-color-scheme: dark)')
/** Paper is light, whatever the screen is: light words would be lost on it. */
const isPaper = follow('print')

/** What was chosen at the bench of this browser; null: as the system is. */
const chosen = ref<boolean | null>(({ '1': true, '0': false } as Record<string, boolean>)[localStorage.getItem('night') ?? ''] ?? null)

/** Whether a page is shown on a dark sheet: as the system is, and on the bench as was chosen there. */
export const isDark = (isBench: boolean) => computed(() => !isPaper.value && (isBench ? (chosen.value ?? isSystemDark.value) : isSystemDark.value))

export function toggleNight(): void {
  chosen.value = !(chosen.value ?? isSystemDark.value)
  localStorage.setItem('night', chosen.value ? '1' : '0')
}
