#!/usr/bin/env bash
# wavelume demo: installs what is missing, starts PostgreSQL on loopback, loads the demo projects and serves; their
# stills are rendered meanwhile. Data that is there stays. A port that is taken is said, and the next one used.
set -euo pipefail
cd "$(dirname "$0")/.."
export NUXT_TELEMETRY_DISABLED=1
bash scripts/install.sh server
bash scripts/build.sh
url=$(bash scripts/pg.sh start)
echo "PostgreSQL is running; scripts/pg.sh url says where, with its password"
export WAVELUME_DATABASE=$url
node scripts/bundle.mjs demo/load.ts
export HOST=127.0.0.1
PORT=$(node scripts/free-port.mjs "${PORT:-3000}")
export PORT
echo "Wavelume: http://127.0.0.1:$PORT"
trap 'kill $(jobs -p) 2>/dev/null' EXIT INT TERM
node .output/server/index.mjs & server=$!
# frames are computed beside the server, at a lower priority than what is on the screen; the stills of the demo first
# a worker that ends over a frame is followed by another
(
  trap 'kill $! 2>/dev/null; exit' TERM INT
  while :; do
    WAVELUME_DATABASE=$(bash scripts/pg.sh url worker) node scripts/cli.mjs worker &
    wait $! || true
    sleep 1
  done
) &
wait $server
