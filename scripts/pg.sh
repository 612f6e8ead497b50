#!/usr/bin/env bash
# pg.sh start|url [worker]|fresh|stop|crash|status : a loopback PostgreSQL in a project-local data directory; start
# prints its address. A running server keeps its port; a new one takes WAVELUME_PGPORT or the next free port.
#
# Who may do what: the superuser is the user that runs PostgreSQL, by the socket alone (peer). The application is the
# role wavelume, which owns its database and nothing else; workers of frames are wavelume_worker, which may do what
# server/database/worker-grants.ts says. Both come by 127.0.0.1 with passwords, kept beside the data for their owner
# alone. Nobody else comes in.
set -euo pipefail
umask 077
here=$(cd "$(dirname "$0")/.." && pwd)
PGDATA=${WAVELUME_PGDATA:-$here/.pg/data}; PORT=${WAVELUME_PGPORT:-54329}
# test databases only: what was committed outlives the server, not the machine
EXTRA=${WAVELUME_PG_UNSAFE:+-c fsync=off -c full_page_writes=off}
BIN=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -1)
HOME_OF=$(dirname "$PGDATA"); SOCK=$HOME_OF/sock
SUPER=$(id -un)
as() { (cd / && "$@"); }
if [ "$(id -u)" = 0 ]; then # PostgreSQL refuses to run as root
  SUPER=postgres
  as() { (cd / && setpriv --reuid=postgres --regid=postgres --init-groups env HOME=/tmp PATH="$PATH" "$@"); }
fi
running() { as "$BIN/pg_ctl" -D "$PGDATA" status >/dev/null 2>&1; }
taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
port() { sed -n 4p "$PGDATA/postmaster.pid"; }
sql() { as "$BIN/psql" -h "$SOCK" -p "$(port)" -U "$SUPER" -X -q -v ON_ERROR_STOP=1 "$@"; }
log=$HOME_OF/pg.log
launch() { # options…: starts the server
  as "$BIN/pg_ctl" -D "$PGDATA" -w -t 30 -l "$log" -o "$*" start >/dev/null 2>&1 </dev/null || {
    tail -5 "$log" >&2
    exit 1
  }
}
create() {
  as "$BIN/initdb" -D "$PGDATA" -U "$SUPER" --auth-local=peer --auth-host=scram-sha-256 -E UTF8 --locale=C.UTF-8 \
    --no-sync >/dev/null
  printf '%s\n' 'local all all peer' 'host wavelume wavelume,wavelume_worker 127.0.0.1/32 scram-sha-256' \
    | as tee "$PGDATA/pg_hba.conf" >/dev/null
}
# a database of before roles had passwords goes on: it is dumped, and read by a new one; the old one stays beside it
dump=$HOME_OF/before-roles.dump
trusted() { [ -s "$PGDATA/PG_VERSION" ] && as grep -q '^host.*trust' "$PGDATA/pg_hba.conf"; }
keep_trusted() {
  running && as "$BIN/pg_ctl" -D "$PGDATA" -m fast -w stop >/dev/null
  launch "-c listen_addresses='' -p $PORT -c unix_socket_directories='$SOCK'"
  as "$BIN/pg_dump" -h "$SOCK" -p "$PORT" -U wavelume -Fc wavelume | as tee "$dump" >/dev/null
  as "$BIN/pg_ctl" -D "$PGDATA" -m fast -w stop >/dev/null
  mv "$PGDATA" "$PGDATA.before-roles"
  mkdir "$PGDATA"
  if [ "$(id -u)" = 0 ]; then chown postgres:postgres "$PGDATA"; fi
}
password() { # role: made once, for its owner alone
  [ -s "$HOME_OF/$1.password" ] || od -An -tx1 -N24 /dev/urandom | tr -d ' \n' >"$HOME_OF/$1.password"
  cat "$HOME_OF/$1.password"
}
roles() {
  for role in wavelume wavelume_worker; do
    sql -d postgres -tAc "select 1 from pg_roles where rolname = '$role'" | grep -q 1 \
      || sql -d postgres -c "create role $role login nosuperuser nocreatedb nocreaterole connection limit 200"
    # by standard input: an argument could be read by others
    echo "alter role $role password '$(password "$role")'" | sql -d postgres
  done
  sql -d postgres -tAc "select 1 from pg_database where datname = 'wavelume'" | grep -q 1 || database
}
database() {
  sql -d postgres -c 'create database wavelume owner wavelume'
  sql -d postgres -c 'revoke connect, temporary on database wavelume from public'
  sql -d postgres -c 'grant connect on database wavelume to wavelume_worker'
}
url() {
  local role=wavelume${1:+_$1}
  echo "postgres://$role:$(password "$role")@127.0.0.1:$(port)/wavelume"
}
case ${1:-start} in
start)
  mkdir -p "$HOME_OF" "$SOCK" "$PGDATA"; chmod 700 "$PGDATA" "$SOCK"; touch "$log"
  if [ "$(id -u)" = 0 ]; then
    chown postgres:postgres "$HOME_OF" "$SOCK" "$log"
    chown -R postgres:postgres "$PGDATA"
  fi
  # every parent must be searchable by the postgres user
  as test -x "$PGDATA" || {
    echo "The user postgres cannot reach $PGDATA: a folder above it is closed to others." >&2
    exit 1
  }
  if trusted; then keep_trusted; fi
  if [ ! -s "$PGDATA/PG_VERSION" ]; then create; fi
  if ! running; then
    while taken "$PORT"; do PORT=$((PORT + 1)); done
    launch "-c listen_addresses=127.0.0.1 -p $PORT -c unix_socket_directories='$SOCK' " \
      "-c unix_socket_permissions=0700 $EXTRA"
  fi
  roles
  if [ -s "$dump" ]; then
    as "$BIN/pg_restore" -h "$SOCK" -p "$(port)" -U "$SUPER" --no-owner --role=wavelume -d wavelume "$dump" >&2
    mv "$dump" "$dump.read"
  fi
  url ;;
url) url "${2:-}" ;;
fresh) # for tests: an empty database on the running server, whatever an earlier run left
  sql -d postgres -c 'drop database if exists wavelume with (force)'
  database ;;
stop) as "$BIN/pg_ctl" -D "$PGDATA" -m fast -w stop ;;
crash) as "$BIN/pg_ctl" -D "$PGDATA" -m immediate -w stop ;; # for tests: as if the machine had lost its power
status) as "$BIN/pg_ctl" -D "$PGDATA" status ;;
esac
