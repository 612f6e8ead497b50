import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,workers,cli,server,shared,demo,app}/**/*.test.ts'],
    environment: 'node',
    testTimeout: 90_000,
    maxWorkers: availableParallelism(),
    execArgv: ['--experimental-wasm-relaxed-simd'],
  },
})
