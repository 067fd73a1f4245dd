import { constants } from 'node:fs'
import { lstat, mkdir, open, readdir, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Job } from '../../kernel/area'
import { eventsIn, Unreadable } from './droppedFiles'
import { takeEvents } from './feed'
import { feedPerson } from './repository'

/** A file that was written to a moment ago may not be whole yet. */
const restMs = 2_000
const isWanted = (name: string) => /\.(json|csv)$/i.test(name) && !name.startsWith('.')

/** A file of more than this is no list of events: nobody waits while it is read. */
export const largestFile = 16 * 1024 * 1024
/** As long as a name may be with the instant before it and the ending of its note after it. */
const longestName = 200

/** Moves what was dropped to a folder beside it, with a word; one of that name there already stays. A link is moved, and not what it points to. */
async function put(folder: string, name: string, where: 'taken' | 'unreadable', words: string, at: Date): Promise<void> {
  const to = join(folder, where)
  await mkdir(to, { recursive: true })
  const kept = Buffer.byteLength(name) <= longestName ? name : `${[...name].slice(0, 40).join('')}…${name.slice(-5)}`
  const stamped = `${at.toISOString().replaceAll(/[:.]/g, '-')} ${kept}`
  await writeFile(join(to, `${stamped}.txt`), words)
  await rename(join(folder, name), join(to, stamped))
}

/** The text of a file, read without following a link, waiting for a pipe, or holding more than a file of events has. @throws {Unreadable} */
async function textOf(path: string): Promise<string> {
  const file = await open(path, constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK)
  try {
    const found = await file.stat()
    if (!found.isFile()) throw new Unreadable('It is no file.')
    if (found.size > largestFile) throw new Unreadable(`It has ${found.size} bytes; a file of events has at most ${largestFile}.`)
    return await file.readFile('utf8')
  } finally {
    await file.close()
  }
}

/**
 * Takes files that another system drops in a folder, by the same door as its events: each event under its key, known ones a second time
 * without effect, refused ones kept aside. A file goes to `taken` with what came of it, or to `unreadable` with what is wrong with it.
 */
export function emptyingInbox(): Job {
  return {
    words: 'taking dropped files',
    everyMs: 3_000,
    async run(work, now, { config, database }) {
      const { inbox } = config
      if (inbox === null) return
      await mkdir(inbox, { recursive: true })
      const personId = await feedPerson(database.reader)
      // Without a person for the feed nobody could say who told it: it waits.
      if (personId === null) return
      const troubles: unknown[] = []
      for (const name of (await readdir(inbox)).filter(isWanted).sort()) {
        try {
          const found = await lstat(join(inbox, name))
          if (Date.now() - found.mtimeMs < restMs) continue
          if (!found.isFile()) throw new Unreadable('It is no file: a link, a folder or a pipe is not read.')
          const events = eventsIn(name, await textOf(join(inbox, name)))
          const answers = await takeEvents((change) => work.run({ personId, key: null, content: '' }, change), events)
          const words = answers.map(
            ({ key, state, subjectCode, message }) => `${key}: ${state}${subjectCode ? ` as ${subjectCode}` : ''}${message ? `. ${message}` : ''}`,
          )
          await put(inbox, name, 'taken', `${words.join('\n')}\n`, now)
        } catch (error) {
          // One that cannot be taken, or put apart, keeps no other back.
          if (error instanceof Unreadable)
            await put(inbox, name, 'unreadable', `${error.message}\nMend it and drop it again: nothing of it was taken.\n`, now).catch((trouble) =>
              troubles.push(trouble),
            )
          else troubles.push(error)
        }
      }
      if (troubles.length > 0) throw troubles[0] as Error
    },
  }
}
