#!/usr/bin/env bash
# wavelume demo: installs what is missing, starts PostgreSQL on loopback, loads the demo projects and serves.
# Data that is there stays.
set -euo pipefail
cd "$(dirname "$0")/.."
export NUXT_TELEMETRY_DISABLED=1
bash scripts/install.sh server
bash scripts/build.sh
url=$(bash scripts/pg.sh start)
echo "PostgreSQL is running: $url"
export WAVELUME_DATABASE=$url
node scripts/bundle.mjs demo/load.ts
export HOST=127.0.0.1 PORT=${PORT:-3000}
echo "Wavelume: http://127.0.0.1:$PORT"
# frames are computed beside the server, at a lower priority than what is on the screen
node scripts/cli.mjs worker & worker=$!
node .output/server/index.mjs & server=$!
trap 'kill $worker $server 2>/dev/null' EXIT INT TERM
wait $server
