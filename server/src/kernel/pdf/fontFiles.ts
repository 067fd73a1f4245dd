import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { inflateSync } from 'node:zlib'

const resolve = createRequire(import.meta.url).resolve
const opened = new Map<string, Buffer>()

/** A shipped font as it is drawn with: unpacked once, and kept, as every report needs it. */
export function fontFile(name: string): Buffer {
  const known = opened.get(name)
  if (known) return known
  const packed = readFileSync(resolve(name))
  const font = packed.toString('latin1', 0, 4) === 'wOFF' ? unpacked(packed) : packed
  opened.set(name, font)
  return font
}

/** The TrueType or OpenType file in a WOFF file. Source: WOFF File Format 1.0, W3C, sections 3 to 5. */
export function unpacked(woff: Buffer): Buffer {
  const count = woff.readUInt16BE(12)
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + i * 20
    const [offset, packedLength, length] = [woff.readUInt32BE(at + 4), woff.readUInt32BE(at + 8), woff.readUInt32BE(at + 12)]
    const stored = woff.subarray(offset, offset + packedLength)
    return { tag: woff.subarray(at, at + 4), checksum: woff.readUInt32BE(at + 16), data: packedLength < length ? inflateSync(stored) : stored }
  })
  const power = Math.floor(Math.log2(count))
  const head = Buffer.alloc(12 + count * 16)
  woff.copy(head, 0, 4, 8)
  head.writeUInt16BE(count, 4)
  head.writeUInt16BE(2 ** power * 16, 6)
  head.writeUInt16BE(power, 8)
  head.writeUInt16BE(count * 16 - 2 ** power * 16, 10)
  const parts: Buffer[] = [head]
  let offset = head.length
  tables.forEach(({ tag, checksum, data }, i) => {
    const at = 12 + i * 16
    tag.copy(head, at)
    head.writeUInt32BE(checksum, at + 4)
    head.writeUInt32BE(offset, at + 8)
    head.writeUInt32BE(data.length, at + 12)
    // Tables begin at multiples of four.
    const padding = Buffer.alloc((4 - (data.length % 4)) % 4)
    parts.push(data, padding)
    offset += data.length + padding.length
  })
  return Buffer.concat(parts)
}
