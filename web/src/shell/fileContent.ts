import { Failure } from './api'

/** The content of a chosen file in base64, as it crosses the wire. @throws {Failure} when it cannot be read, or is larger than `maxMegabytes`. */
export async function fileContent(file: File, maxMegabytes = 10): Promise<string> {
  if (file.size > maxMegabytes * 1_000_000)
    throw new Failure('input_invalid', `${file.name} has ${Math.round(file.size / 1e6)} MB, up to ${maxMegabytes} are taken.`, 'Split it.')
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader()
    reader.addEventListener('load', () => resolve(String(reader.result)))
    reader.addEventListener('error', () => reject(new Failure('input_invalid', `${file.name} cannot be read.`, 'Choose it again.')))
    reader.readAsDataURL(file)
  })
  return url.slice(url.indexOf(',') + 1)
}
