import { defineConfig } from 'vitest/config'

export default defineConfig({ test: { include: ['{core,cli,server,demo,app}/**/*.test.ts'], environment: 'node', testTimeout: 60_000, execArgv: ['--experimental-wasm-relaxed-simd'] } })
