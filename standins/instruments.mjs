// Stands in for instruments on a bench: each keeps a connection to the plant, and sends what it shows when its button is pressed.
// They can be told to misbehave. Nothing of the plant is imported: they speak lines over TCP only, as docs/instruments.md says.
import { connect } from 'node:net'
import { json, serve, textOf } from './page.mjs'

const { INSTRUMENTS = '[]', INSTRUMENT_PORT = '4722', INSTRUMENTS_PAGE_PORT = '4723' } = process.env
const most = 100
/** It says so often that it is there. */
const aliveMs = 10_000
const againMs = 2_000

/** An instrument: what it shows is about `about`, with some noise, and more of drift with each press. */
class Instrument {
  socket = null
  presses = 0
  drifted = 0
  /** What is not answered yet, in order: kept over a broken connection, and sent again under the same ids. */
  waiting = []
  log = []
  misbehaves = { wrongUnit: false, doublePress: false, disconnected: false }

  constructor({ code, name, key, unit, otherUnit, about, noise, decimals }) {
    Object.assign(this, { code, name, key, unit, otherUnit, about, noise, decimals, drift: 0 })
    this.begun = Date.now().toString(36)
    this.open()
    setInterval(() => this.isThere && this.socket.write('ALIVE\n'), aliveMs).unref()
  }

  get isThere() {
    return this.socket !== null && !this.socket.connecting && !this.socket.destroyed
  }

  open() {
    if (this.misbehaves.disconnected || this.isThere) return
    const socket = connect(Number(INSTRUMENT_PORT), '127.0.0.1')
    this.socket = socket
    let rest = ''
    socket.setEncoding('utf8')
    socket.on('connect', () => {
      socket.write(`KEY ${this.key}\n`)
      for (const value of this.waiting) this.send(value)
    })
    socket.on('data', (text) => {
      const lines = (rest + text).split('\n')
      rest = lines.pop()
      for (const line of lines) this.hear(line.trim())
    })
    socket.on('error', () => undefined)
    socket.on('close', () => {
      if (this.socket === socket) this.socket = null
      setTimeout(() => this.open(), againMs).unref()
    })
  }

  hear(line) {
    const [word, id, ...rest] = line.split(' ')
    if (word === 'OK') return
    const value = this.waiting.find((entry) => entry.id === id)
    if (!value && word !== 'REFUSED') return
    this.waiting = this.waiting.filter((entry) => entry !== value)
    this.note(value ? value.words : '', `${word} ${rest.join(' ')}`.trim())
  }

  note(words, answer) {
    this.log.unshift({ at: new Date().toISOString(), words, answer })
    this.log.splice(most)
  }

  send({ id, text, pressedAt }) {
    if (this.isThere) this.socket.write(`VALUE ${id} ${text} AGE ${Math.round(performance.now() - pressedAt)}\n`)
  }

  /** The button: what it shows now goes out, or waits until there is a connection again. */
  press(shown) {
    const noise = this.noise * (Math.random() + Math.random() + Math.random() - 1.5)
    const number = shown ?? (this.about + this.drifted + noise).toFixed(this.decimals)
    this.drifted += this.drift
    const unit = this.misbehaves.wrongUnit ? this.otherUnit : this.unit
    for (let times = this.misbehaves.doublePress ? 2 : 1; times > 0; times--) {
      const text = `${number} ${unit}`
      const value = { id: `${this.begun}-${(this.presses += 1)}`, text, words: text, pressedAt: performance.now() }
      this.waiting.push(value)
      this.send(value)
    }
  }

  set(wanted) {
    for (const name of ['about', 'noise', 'drift']) if (Number.isFinite(wanted[name])) this[name] = wanted[name]
    if (Number.isFinite(wanted.drift)) this.drifted = 0
    for (const name of Object.keys(this.misbehaves)) if (typeof wanted[name] === 'boolean') this.misbehaves[name] = wanted[name]
    if (this.misbehaves.disconnected) this.socket?.end('END\n')
    else this.open()
  }

  get state() {
    const { code, name, unit, about, noise, drift, drifted, misbehaves, log, waiting, isThere } = this
    return { code, name, unit, about, noise, drift, drifted, misbehaves, log, waiting: waiting.map(({ words }) => words), isThere }
  }
}

const instruments = JSON.parse(INSTRUMENTS).map((given) => new Instrument(given))

const state = () => instruments.map((instrument) => instrument.state)

const pages = {
  'GET /state': (_request, response) => json(response, 200, state()),
  'POST /press': async (request, response) => {
    const { code, value } = JSON.parse(await textOf(request))
    instruments.find((instrument) => instrument.code === code)?.press(value)
    json(response, 200, state())
  },
  'POST /set': async (request, response) => {
    const { code, ...wanted } = JSON.parse(await textOf(request))
    instruments.find((instrument) => instrument.code === code)?.set(wanted)
    json(response, 200, state())
  },
}

serve(pages, { file: 'instruments.html', port: INSTRUMENTS_PAGE_PORT, words: 'The stand-ins for instruments are' })
