import { enableDragDropTouch } from '@dragdroptouch/drag-drop-touch'

/**
 * Lets a finger do what the mouse does where things are dragged: held for a moment, then moved, so that a list still scrolls under a
 * finger that only wipes. Loaded where there is a touch screen.
 */
enableDragDropTouch(document, document, { isPressHoldMode: true, pressHoldDelayMS: 350, pressHoldMargin: 12 })
