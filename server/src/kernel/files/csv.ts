/**
 * How every CSV leaves the server: a cell that a spreadsheet would compute gets an apostrophe before it and is read as text. That is one which
 * begins like a formula, also behind blanks, or would once it is cut at a separator that another country's spreadsheet cuts at.
 * A negative number is a number, and stays one.
 * Source: OWASP, CSV injection.
 * A text that begins with apostrophes before such a beginning gets one more, so that reading it back gives what it was.
 */
const computed = /^'*\s*[=+@\t\r]|^'*\s*-(?!\d*\.?\d+(?:[eE][+-]?\d+)?$)|[;,\t\n]\s*[=+@-]/

export const csvOptions = { newline: '\r\n', escapeFormulae: computed }

/** The text that a cell held before it was guarded. */
export function unguarded(cell: string): string {
  return cell.startsWith("'") && computed.test(cell) ? cell.slice(1) : cell
}
