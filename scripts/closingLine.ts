import type { Reporter, TestModule } from 'vitest/node'

/** Prints the last line that a machine reads: how many tests passed and failed. */
export default class ClosingLine implements Reporter {
  onTestRunEnd(modules: readonly TestModule[], errors: readonly unknown[]): void {
    let passed = 0
    let failed = errors.length
    for (const module of modules) {
      if (module.state() === 'failed' && module.errors().length > 0) failed += 1
      for (const test of module.children.allTests()) {
        if (test.result().state === 'passed') passed += 1
        else if (test.result().state === 'failed') failed += 1
      }
    }
    process.stdout.write(`\n${passed} passed, ${failed} failed\n`)
  }
}
