#!/usr/bin/env bash
# pg.sh start|fresh|stop|status : a loopback PostgreSQL in a project-local data directory; start prints its address.
# A running server keeps its port; a new one takes WAVELUME_PGPORT or the next free port.
set -euo pipefail
here=$(cd "$(dirname "$0")/.." && pwd)
PGDATA=${WAVELUME_PGDATA:-$here/.pg/data}; PORT=${WAVELUME_PGPORT:-54329}
# test databases only: what was committed outlives the server, not the machine
EXTRA=${WAVELUME_PG_UNSAFE:+-c fsync=off -c full_page_writes=off}
BIN=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -1)
SOCK=$(dirname "$PGDATA")/sock
as() { "$@"; }
if [ "$(id -u)" = 0 ]; then # PostgreSQL refuses to run as root
  as() { setpriv --reuid=postgres --regid=postgres --init-groups env HOME=/tmp PATH="$PATH" "$@"; }
fi
running() { (cd / && as "$BIN/pg_ctl" -D "$PGDATA" status >/dev/null 2>&1); }
taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
case ${1:-start} in
start)
  mkdir -p "$(dirname "$PGDATA")" "$SOCK" "$PGDATA"; chmod 700 "$PGDATA"
  if [ "$(id -u)" = 0 ]; then
    chown postgres:postgres "$(dirname "$PGDATA")" "$SOCK"
    chown -R postgres:postgres "$PGDATA"
  fi
  # every parent must be searchable by the postgres user
  as test -x "$PGDATA" || {
    echo "The user postgres cannot reach $PGDATA: a folder above it is closed to others." >&2
    exit 1
  }
  if [ ! -s "$PGDATA/PG_VERSION" ]; then
    (cd / && as "$BIN/initdb" -D "$PGDATA" -U wavelume -A trust -E UTF8 --locale=C.UTF-8 --no-sync >/dev/null)
  fi
  if running; then PORT=$(sed -n 4p "$PGDATA/postmaster.pid")
  else
    while taken "$PORT"; do PORT=$((PORT + 1)); done
    log="$(dirname "$PGDATA")/pg.log"
    options="-c listen_addresses=127.0.0.1 -p $PORT -c unix_socket_directories='$SOCK' $EXTRA"
    (cd / && as "$BIN/pg_ctl" -D "$PGDATA" -w -t 30 -l "$log" -o "$options" start >/dev/null 2>&1 </dev/null) || {
      tail -5 "$log" >&2
      exit 1
    }
  fi
  there="select 1 from pg_database where datname='wavelume'"
  "$BIN/psql" -h 127.0.0.1 -p "$PORT" -U wavelume -d postgres -tAc "$there" | grep -q 1 \
    || "$BIN/createdb" -h 127.0.0.1 -p "$PORT" -U wavelume wavelume
  echo "postgres://wavelume@127.0.0.1:$PORT/wavelume" ;;
fresh) # for tests: an empty database on the running server, whatever an earlier run left
  PORT=$(sed -n 4p "$PGDATA/postmaster.pid")
  "$BIN/psql" -h 127.0.0.1 -p "$PORT" -U wavelume -d postgres -qc 'drop database if exists wavelume with (force)'
  "$BIN/createdb" -h 127.0.0.1 -p "$PORT" -U wavelume wavelume ;;
stop) (cd / && as "$BIN/pg_ctl" -D "$PGDATA" -m fast -w stop) ;;
crash) (cd / && as "$BIN/pg_ctl" -D "$PGDATA" -m immediate -w stop) ;; # for tests: as if the machine had lost its power
status) (cd / && as "$BIN/pg_ctl" -D "$PGDATA" status) ;;
esac
