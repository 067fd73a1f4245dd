/**
 * How every CSV leaves the server: a cell that a spreadsheet would run as a formula is kept as text, negative numbers stay numbers.
 * Source: OWASP, CSV injection.
 */
export const csvOptions = { newline: '\r\n', escapeFormulae: /^[=+@\t\r]|^-(?![\d.])/ }
