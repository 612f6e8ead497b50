#!/usr/bin/env bash
# wavelume dev: the same with Nuxt's development server.
set -euo pipefail
cd "$(dirname "$0")/.."
export NUXT_TELEMETRY_DISABLED=1
bash scripts/install.sh server
export WAVELUME_DATABASE=$(bash scripts/pg.sh start)
node scripts/bundle.mjs demo/load.ts
exec npx nuxt dev --host 127.0.0.1 --port "${PORT:-3000}"
