import { readConfig } from '@nemawashi/server'
import { seedDemo } from './seed'

const config = readConfig(process.env)
const width = 30
await seedDemo(config, new Date(), (share, words) => {
  const filled = Math.round(width * share)
  process.stdout.write(`  demo data ${'█'.repeat(filled)}${'·'.repeat(width - filled)} ${words}\n`)
})
