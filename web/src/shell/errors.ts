import type { App } from 'vue'
import { asFailure } from './api'
import { notify } from './notify'

/** What nobody caught is said once at the foot of the page and stands in the console; what was typed stays where it is. */
export function tellError(error: unknown): void {
  const failure = asFailure(error)
  // Who gave a question up knows it.
  if (failure.code === 'signed_out' || (error instanceof DOMException && error.name === 'AbortError')) return
  console.error(error)
  notify(failure.code === 'internal' ? `Something went wrong on this page: ${failure.message}` : failure.message)
}

export function catchErrors(app: App): void {
  app.config.errorHandler = tellError
  addEventListener('unhandledrejection', (event) => {
    event.preventDefault()
    tellError(event.reason)
  })
}
