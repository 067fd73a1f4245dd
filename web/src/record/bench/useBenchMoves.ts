import { nextOpen, type CellPlace } from '../entry/cells'
import type { useBench } from './useBench'

type Bench = Pick<ReturnType<typeof useBench>, 'lines' | 'line' | 'cells' | 'at' | 'asked' | 'direction' | 'typed' | 'doubt' | 'go' | 'withdraw'>

/** From cell to cell and from line to line, by keys and by what was chosen; the cursor goes along. */
export function useBenchMoves({ lines, line, cells, at, asked, direction, typed, doubt, go, withdraw }: Bench, focusEntry: () => void) {
  function goTo(place: CellPlace): void {
    go(place)
    focusEntry()
  }
  /** The first cell of all that has no answer; null where none is left. */
  const firstOpen = () => nextOpen(lines.value, cells.value, { line: 0, piece: 0 }, direction.value)
  /** To the first cell of a line that is still open, or to its first piece. */
  function toLine(i: number): void {
    const to = lines.value[i]
    if (to) goTo({ line: i, piece: nextOpen([to], cells.value, { line: 0, piece: 0 }, 'down')?.piece ?? 1 })
  }
  function move(event: KeyboardEvent): void {
    if (!line.value || doubt.value) return
    const piece = at.value.piece + (event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0)
    const next = at.value.line + (event.key === 'PageDown' ? 1 : event.key === 'PageUp' ? -1 : 0)
    if (event.key === 'Delete' && typed.value === '') withdraw()
    else if (piece !== at.value.piece && piece >= 1 && piece <= asked.value) go({ ...at.value, piece })
    else if (next !== at.value.line && lines.value[next]) toLine(next)
    else return
    event.preventDefault()
  }
  return { goTo, firstOpen, toLine, move }
}
