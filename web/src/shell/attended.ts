/** So long after the last key, click or touch a page counts as left: what it asks by itself shows nobody at it. */
const leftMs = 60_000
let lastMs = Date.now()

const acts = ['keydown', 'pointerdown', 'pointermove', 'wheel', 'touchstart'] as const

/** Watches whether somebody is at the page. */
export function watchAttendance(target: Pick<Window, 'addEventListener'>): void {
  for (const act of acts) target.addEventListener(act, () => (lastMs = Date.now()), { capture: true, passive: true })
}

export const isAttended = (now = Date.now()): boolean => now - lastMs < leftMs
