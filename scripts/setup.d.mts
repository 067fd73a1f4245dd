/** Where the browser of the tests is; null where none is installed. */
export function chromium(): string | null
