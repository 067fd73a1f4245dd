import type { Reporter, TestModule } from 'vitest/node'

const firstLine = (text: string) => text.split('\n', 1)[0] ?? ''

/** Prints the failed tests once more, a line each, and the last line that a machine reads: how many tests passed and failed. */
export default class ClosingLine implements Reporter {
  onTestRunEnd(modules: readonly TestModule[], errors: readonly unknown[]): void {
    let passed = 0
    const failures = errors.map((error) => `outside the tests: ${firstLine(String((error as Error | undefined)?.message ?? error))}`)
    for (const module of modules) {
      if (module.state() === 'failed') failures.push(...module.errors().map((error) => `${module.relativeModuleId}: ${firstLine(error.message)}`))
      for (const test of module.children.allTests()) {
        const result = test.result()
        if (result.state === 'passed') passed += 1
        else if (result.state === 'failed')
          failures.push(`${module.relativeModuleId} > ${test.fullName}: ${result.errors.map((error) => firstLine(error.message)).join('; ')}`)
      }
    }
    process.stdout.write(`\n${failures.map((line) => `failed: ${line}\n`).join('')}${passed} passed, ${failures.length} failed\n`)
  }
}
