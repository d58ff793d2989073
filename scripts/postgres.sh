# A private PostgreSQL cluster of this checkout, on loopback; no other cluster is touched.

# As root the cluster belongs to the user postgres, who must be able to reach its folder.
as_pg() {
  if [ "$(id -u)" -eq 0 ]; then
    (cd / && setpriv --reuid=postgres --regid=postgres --init-groups "$@")
  else
    "$@"
  fi
}

pg_folder() {
  if [ "$(id -u)" -eq 0 ]; then
    echo "/var/lib/strom/$(printf %s "$ROOT" | cksum | cut -d' ' -f1)/$1"
  else
    echo "$STATE/$1"
  fi
}

# pg_url NAME PORT: the address of the database in a cluster of this checkout.
pg_url() { echo "postgresql://strom:$(cat "$STATE/$1.password")@127.0.0.1:$2/strom"; }

# start_pg NAME [OPTIONS]: start cluster NAME, made first if need be; sets PG_PORT and PG_URL.
start_pg() {
  PG_NAME=$1
  pg_options=${2:-}
  BIN=$(pg_bin)
  DATA=$(pg_folder "$PG_NAME")
  secret=$STATE/$PG_NAME.password
  if [ "$(id -u)" -eq 0 ]; then install -d -m 755 "$(dirname "$DATA")"; fi
  if [ -f "$DATA/PG_VERSION" ] && [ ! -s "$secret" ]; then
    # Another checkout stood at this path before; what it left is kept, and not opened.
    as_pg "$BIN/pg_ctl" -D "$DATA" -m fast -w -s stop 2>/dev/null || true
    kept=$DATA.kept-$(date +%Y%m%d%H%M%S)
    mv "$DATA" "$kept"
    say "the password of database $PG_NAME is gone: what was in it is kept in $kept"
  fi
  if [ ! -f "$DATA/PG_VERSION" ]; then
    say "making the database cluster $PG_NAME"
    rm -rf "$DATA"
    if [ "$(id -u)" -eq 0 ]; then install -d -o postgres -g postgres -m 700 "$DATA"; else install -d -m 700 "$DATA"; fi
    (umask 077; "$PY" -c 'import secrets; print(secrets.token_urlsafe(24))' >"$secret")
    pw=$(mktemp)
    cat "$secret" >"$pw"
    [ "$(id -u)" -ne 0 ] || chown postgres "$pw"
    as_pg "$BIN/initdb" -D "$DATA" -U strom -A scram-sha-256 --pwfile="$pw" -E UTF8 --locale=C.UTF-8 \
      >"$STATE/initdb.log" 2>&1 || { rm -f "$pw"; tail -n 5 "$STATE/initdb.log" >&2; die "initdb failed"; }
    rm -f "$pw"
  fi
  if as_pg "$BIN/pg_ctl" -D "$DATA" status >/dev/null 2>&1; then
    owner=$(cat "$STATE/$PG_NAME.owner" 2>/dev/null || echo none)
    if [ "$owner" != none ] && kill -0 "$owner" 2>/dev/null; then
      DATA=
      die "this checkout's database ($PG_NAME) is in use by another ./strom (process $owner); stop that one first"
    fi
    say "stopping the database that an earlier run left behind"
    as_pg "$BIN/pg_ctl" -D "$DATA" -m fast -w -s stop || die "could not stop it"
  fi
  echo $$ >"$STATE/$PG_NAME.owner"
  PG_PORT=$(free_port 54330)
  log=$DATA/server.log
  as_pg "$BIN/pg_ctl" -D "$DATA" -l "$log" -w -s \
    -o "-p $PG_PORT -c listen_addresses=127.0.0.1 -c unix_socket_directories= $pg_options" start ||
    die "PostgreSQL did not start; see $log"
  PG_URL=$(pg_url "$PG_NAME" "$PG_PORT")
  "$PY" - "$PG_URL" <<'PY'
import sys
import psycopg
url = sys.argv[1]
with psycopg.connect(url.rsplit("/", 1)[0] + "/postgres", autocommit=True) as db:
    if not db.execute("SELECT 1 FROM pg_database WHERE datname = 'strom'").fetchone():
        db.execute("CREATE DATABASE strom")
PY
}

# reach_pg NAME: the database of this checkout, running already or started here; sets PG_URL.
reach_pg() {
  DATA=$(pg_folder "$1")
  BIN=$(pg_bin)
  if [ -f "$DATA/PG_VERSION" ] && as_pg "$BIN/pg_ctl" -D "$DATA" status >/dev/null 2>&1; then
    PG_URL=$(pg_url "$1" "$(sed -n 4p "$DATA/postmaster.pid")")
    DATA= # it is not ours to stop
  else
    start_pg "$1"
  fi
}

stop_pg() {
  [ -n "${DATA:-}" ] || return 0
  trap '' INT TERM
  as_pg "$BIN/pg_ctl" -D "$DATA" -m fast -w -s stop 2>/dev/null || true
  DATA=
}
