// Loaded before a server starts: its clock is off by the milliseconds in the file SHIFTED_CLOCK names, as where somebody sets the clock of a machine.
import { readFileSync } from 'node:fs'

const Clock = Date
const off = () => {
  try {
    return Number(readFileSync(process.env.SHIFTED_CLOCK ?? '', 'utf8'))
  } catch {
    return 0
  }
}
globalThis.Date = class extends Clock {
  constructor(...of) {
    if (of.length === 0) super(Clock.now() + off())
    else super(...of)
  }
  static now() {
    return Clock.now() + off()
  }
}
