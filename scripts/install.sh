#!/usr/bin/env bash
# Installs what this machine lacks, and says what it does: npm packages, PostgreSQL, and with "test" also Chromium.
#   scripts/install.sh [packages|server|test]      each includes the ones before it
set -euo pipefail
here=$(cd "$(dirname "$0")/.." && pwd); cd "$here"
what=${1:-server}
command -v node >/dev/null || { echo "Wavelume needs Node.js 20.19 or newer." >&2; exit 1; }

# npm ci leaves a mark of the lock it installed; a changed lock installs again.
mark=node_modules/.wavelume-lock
if ! cmp -s package-lock.json "$mark" 2>/dev/null; then
  echo "Installing the npm packages (a minute or two the first time)"
  npm ci --no-audit --no-fund --loglevel=error
  cp package-lock.json "$mark"
fi
[ "$what" = packages ] && exit 0

need=()
ls -d /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || need+=(postgresql)
if [ "$what" = test ]; then [ -x "${CHROMIUM:-/usr/bin/chromium}" ] || need+=(chromium); fi
if [ ${#need[@]} -gt 0 ]; then
  command -v apt-get >/dev/null || { echo "Please install: ${need[*]}" >&2; exit 1; }
  sudo=(); [ "$(id -u)" = 0 ] || sudo=(sudo)
  if [ "$(id -u)" != 0 ] && ! command -v sudo >/dev/null; then
    echo "Please ask an administrator to install: ${need[*]}" >&2
    exit 1
  fi
  echo "Installing from Debian: ${need[*]}"
  "${sudo[@]}" apt-get update -qq
  # the distribution's own cluster is not wanted: Wavelume starts a server of its own on loopback
  "${sudo[@]}" mkdir -p /etc/postgresql-common
  cluster=/etc/postgresql-common/createcluster.conf
  [ -e "$cluster" ] || echo "create_main_cluster = false" | "${sudo[@]}" tee "$cluster" >/dev/null
  "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${need[@]}" >/dev/null
fi
