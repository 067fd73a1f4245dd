/**
 * After a dialog has gone the cursor returns to where it was: without this it falls to the page, and what is typed next goes nowhere.
 * Where something else took the cursor meanwhile, it keeps it.
 */
export function returnFocus(root: Document = document): void {
  let last: HTMLElement | null = null
  root.addEventListener('focusin', ({ target }) => {
    if (target instanceof HTMLElement && !target.closest('.v-overlay-container')) last = target
  })
  new MutationObserver((changes) => {
    const hasGone = changes.some(({ removedNodes }) =>
      [...removedNodes].some((node) => node instanceof HTMLElement && (node.matches('.v-overlay') || node.querySelector('.v-overlay') !== null)),
    )
    if (hasGone && (root.activeElement === root.body || root.activeElement === null) && last?.isConnected) last.focus()
  }).observe(root.body, { childList: true, subtree: true })
}
