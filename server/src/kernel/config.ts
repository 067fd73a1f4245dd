import { resolve } from 'node:path'
import { z } from 'zod'

const Environment = z.object({
  PORT: z.coerce.number().int().min(0).max(65_535).default(4720),
  NEMAWASHI_HOST: z.string().min(1).default('127.0.0.1'),
  NEMAWASHI_DATA: z.string().min(1).default('.data/plant'),
  NEMAWASHI_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
  NEMAWASHI_SESSION_HOURS: z.coerce.number().positive().max(240).default(12),
})

export interface Config {
  readonly port: number
  readonly host: string
  readonly dataFolder: string
  readonly logLevel: string
  readonly sessionHours: number
}

/** Reads the configuration from the environment; a wrong value stops the start and says which and why. */
export function readConfig(environment: Record<string, string | undefined>): Config {
  const parsed = Environment.safeParse(environment)
  if (!parsed.success) {
    const problems = parsed.error.issues.map((issue) => `${issue.path.join('.')} = "${environment[String(issue.path[0])]}": ${issue.message}`)
    throw new Error(`The configuration is not valid.\n${problems.join('\n')}`)
  }
  const { PORT, NEMAWASHI_HOST, NEMAWASHI_DATA, NEMAWASHI_LOG, NEMAWASHI_SESSION_HOURS } = parsed.data
  return { port: PORT, host: NEMAWASHI_HOST, dataFolder: resolve(NEMAWASHI_DATA), logLevel: NEMAWASHI_LOG, sessionHours: NEMAWASHI_SESSION_HOURS }
}
