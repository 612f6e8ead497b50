#!/usr/bin/env bash
# Builds the application when its sources are newer than the last build.
set -euo pipefail
cd "$(dirname "$0")/.."
if [ ! -f .output/server/index.mjs ] || [ -n "$(find app core server shared workers nuxt.config.ts package-lock.json -newer .output/server/index.mjs -print -quit)" ]; then
  echo "Building the application (about a minute)"
  npx nuxt build >.build.log 2>&1 || { tail -40 .build.log >&2; exit 1; }
fi
