#!/usr/bin/env bash
# wavelume test [--long]: installs what is missing, then types, lint, unit tests, and the walk in Chromium against the
# built server and a database of its own.
# Ends with one line: N passed, N failed.
# --long also runs what takes longer than a submission can wait: campaigns of kills and of damaged files, 4K frames.
set -uo pipefail
cd "$(dirname "$0")/.."
export NUXT_TELEMETRY_DISABLED=1 WAVELUME_PG_UNSAFE=1
export WAVELUME_PGDATA=${WAVELUME_TEST_PGDATA:-$PWD/.pg-test/data} WAVELUME_PGPORT=${WAVELUME_PGPORT:-54339}
long=(--grep-invert @long)
for word in "$@"; do
  case $word in
    --long) long=(); export WAVELUME_LONG=1 ;;
    *) echo "wavelume test takes --long alone, not $word" >&2; exit 2 ;;
  esac
done
bash scripts/install.sh test || exit 1
passed=0; failed=0
step() { # name, command…: one check of its own
  local name=$1; shift
  echo "== $name"
  if "$@"; then passed=$((passed + 1)); else failed=$((failed + 1)); echo "FAILED: $name"; fi
}
beside() { # name|command…: checks of their own, two at a time, told in their order
  local log check i=0; log=$(mktemp -d)
  for check in "$@"; do
    while [ "$(jobs -rp | wc -l)" -ge 2 ]; do wait -n; done
    { ${check#*|} >"$log/$i" 2>&1 && touch "$log/$i.passed"; } & i=$((i + 1))
  done
  wait
  i=0
  for check in "$@"; do step "${check%%|*}" bash -c "cat $log/$i; [ -f $log/$i.passed ]"; i=$((i + 1)); done
  rm -r "$log"
}
# before anything of Nuxt's is made: the command needs none of it
step "the command by itself" node scripts/cli.mjs help
npx nuxt prepare >/dev/null 2>&1
# what takes one processor, two at a time
beside "the build|bash scripts/build.sh" "types of core|npx tsc -p core" "types of workers|npx tsc -p workers" \
  "types of cli|npx tsc -p cli" "types of demo|npx tsc -p demo"
beside "types of the application|npx nuxt typecheck" "lint|npx eslint ." \
  "form|npx prettier --check --log-level warn ." "types of tests|npx tsc -p core/tsconfig.tests.json"

# passed and failed of a report of Playwright's or Vitest's
count() {
  node -e '
    const report = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"))
    const { stats } = report
    const broken = report.numFailedTestSuites && !report.numFailedTests ? 1 : 0
    const counts = stats
      ? [stats.expected + stats.flaky, stats.unexpected]
      : [report.numPassedTests, report.numFailedTests + broken]
    console.log(counts.join(" "))
  ' "$1" 2>/dev/null || echo "0 1"
}
tally() { read -r p f <<<"$(count "$1")"; passed=$((passed + p)); failed=$((failed + f)); }

url=$(bash scripts/pg.sh start) || exit 1
export WAVELUME_DATABASE=$url
echo "== unit tests"
rm -f .unit.json
npx vitest run --reporter=default --reporter=json --outputFile=.unit.json
tally .unit.json

echo "== the walk in Chromium"
rm -f .e2e.json
if bash scripts/build.sh; then
  PLAYWRIGHT_JSON_OUTPUT_NAME=.e2e.json npx playwright test "${long[@]}" --reporter=list,json
  tally .e2e.json
else failed=$((failed + 1)); fi
bash scripts/pg.sh stop >/dev/null 2>&1
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
