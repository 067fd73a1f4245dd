/// <reference types="vite/client" />

/** The address of the font with the signs that the main fonts lack: `web/symbolFont.ts`. */
declare module 'virtual:symbol-font' {
  const address: string
  export default address
}
