/** The library comes without types; this is what of it is used. */
declare module '@dragdroptouch/drag-drop-touch' {
  interface Options {
    readonly isPressHoldMode?: boolean
    readonly pressHoldDelayMS?: number
    readonly pressHoldMargin?: number
  }
  export function enableDragDropTouch(dragRoot: Document, dropRoot: Document, options?: Options): void
}
