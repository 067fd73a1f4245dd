import { readConfig } from '@nemawashi/server'
import { seedDemo } from './seed'

// What it writes is for whoever runs it, and for nobody else on the machine.
process.umask(0o077)

const config = readConfig(process.env)
const width = 30
await seedDemo(config, new Date(), (share, words) => {
  const filled = Math.round(width * share)
  process.stdout.write(`  demo data ${'█'.repeat(filled)}${'·'.repeat(width - filled)} ${words}\n`)
})
