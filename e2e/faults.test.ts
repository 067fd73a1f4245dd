import { describe, expect, it } from 'vitest'
import { aroundIt } from './faultsAround'
import { bombsAndGuesses, fullDisk, hostileRequests, killRounds, tampered } from './faults'

/** The short form of `npm run faults`. */
describe('a plant outlives', () => {
  it.each([
    ['being killed while it writes', () => killRounds(2)],
    ['a disk without room', () => fullDisk()],
    ['rows changed behind its back, and names them', () => tampered(8)],
    ['being asked for nonsense by everybody', () => hostileRequests(1, 3)],
    ['bombs and guesses', () => bombsAndGuesses(60)],
    ['a wrong clock, a folder of rubbish, a head that cannot be written, a receiver that does not answer', () => aroundIt()],
  ])('%s', async (_what, campaign) => {
    const { failures, figures } = await campaign()
    expect(failures.join('\n')).toBe('')
    for (const figure of Object.values(figures)) expect(figure).toBeGreaterThanOrEqual(0)
  })
})
