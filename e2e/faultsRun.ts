import { aroundIt, longestStall } from './faultsAround'
import { severalServers } from './faultsSeveral'
import { bombsAndGuesses, demoBytes, fullDisk, hostileRequests, killRounds, tampered, type Outcome } from './faults'

/** The whole campaign, with its figures. Usage: npm run faults [-- --postgres] [-- PART OF A NAME] */
const campaigns: readonly (() => Promise<Outcome>)[] = [
  () => killRounds(60),
  () => fullDisk(),
  () => tampered(),
  () => hostileRequests(3),
  () => bombsAndGuesses(200),
  () => aroundIt(),
  () => longestStall(10),
  () => severalServers(24),
]
console.log(`The demo plant, ${(demoBytes() / 1024 / 1024).toFixed(1)} MB`)
const only = process.argv[2]
let isFine = true
for (const campaign of campaigns.filter((campaign) => only === undefined || String(campaign).includes(only))) {
  const began = Date.now()
  const { name, figures, failures } = await campaign()
  const counted = Object.entries(figures)
    .map(([what, figure]) => `${what} ${figure}`)
    .join(', ')
  console.log(`${failures.length === 0 ? 'held  ' : 'BROKE '} ${name}: ${counted} (${((Date.now() - began) / 1000).toFixed(0)} s)`)
  for (const failure of failures) console.log(`       ${failure}`)
  isFine &&= failures.length === 0
}
process.exit(isFine ? 0 : 1)
