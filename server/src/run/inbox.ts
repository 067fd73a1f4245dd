import { mkdir, readdir, readFile, rename, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Job } from '../kernel/area'
import { eventsIn, Unreadable } from './droppedFiles'
import { takeEvents } from './feed'
import { feedPerson } from './feedRepository'

/** A file that was written to a moment ago may not be whole yet. */
const restMs = 2_000
const isWanted = (name: string) => /\.(json|csv)$/i.test(name) && !name.startsWith('.')

/** Moves a file to a folder beside it; one of that name there already stays, with what came of the new one beside it. */
async function put(folder: string, name: string, where: 'taken' | 'unreadable', words: string, at: Date): Promise<void> {
  const to = join(folder, where)
  await mkdir(to, { recursive: true })
  const stamped = `${at.toISOString().replaceAll(/[:.]/g, '-')} ${name}`
  await writeFile(join(to, `${stamped}.txt`), words)
  await rename(join(folder, name), join(to, stamped))
}

/**
 * Takes files that another system drops in a folder, by the same door as its events: each event under its key, known ones a second time
 * without effect, refused ones kept aside. A file goes to `taken` with what came of it, or to `unreadable` with what is wrong with it.
 */
export function emptyingInbox(): Job {
  let isEmptying = false
  return {
    words: 'taking dropped files',
    everyMs: 3_000,
    async run(work, now, { config, database }) {
      const { inbox } = config
      if (inbox === null || isEmptying) return
      isEmptying = true
      try {
        await mkdir(inbox, { recursive: true })
        for (const name of (await readdir(inbox)).filter(isWanted).sort()) {
          if (Date.now() - (await stat(join(inbox, name))).mtimeMs < restMs) continue
          const personId = await feedPerson(database.reader)
          // Without a person for the feed nobody could say who told it: it waits.
          if (personId === null) return
          try {
            const events = eventsIn(name, await readFile(join(inbox, name), 'utf8'))
            const answers = await takeEvents((change) => work.run({ personId, key: null, content: '' }, change), events)
            const words = answers.map(
              ({ key, state, subjectCode, message }) => `${key}: ${state}${subjectCode ? ` as ${subjectCode}` : ''}${message ? `. ${message}` : ''}`,
            )
            await put(inbox, name, 'taken', `${words.join('\n')}\n`, now)
          } catch (error) {
            if (!(error instanceof Unreadable)) throw error
            await put(inbox, name, 'unreadable', `${error.message}\nMend it and drop it again: nothing of it was taken.\n`, now)
          }
        }
      } finally {
        isEmptying = false
      }
    },
  }
}
