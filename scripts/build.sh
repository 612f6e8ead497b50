#!/usr/bin/env bash
# Builds the application when its sources are newer than the last build.
set -euo pipefail
cd "$(dirname "$0")/.."
built=.output/server/index.mjs
newer() { find app core server shared workers nuxt.config.ts package-lock.json -newer "$built" -print -quit; }
if [ ! -f "$built" ] || [ -n "$(newer)" ]; then
  echo "Building the application (about a minute)"
  npx nuxt build >.build.log 2>&1 || { tail -40 .build.log >&2; exit 1; }
fi
