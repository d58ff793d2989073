# Serve the demo workshop until Ctrl-C.
ready_system
ready_python
ready_frontend
ready_static

stop_all() {
  trap '' INT TERM
  trap - EXIT
  [ -z "${WEB:-}" ] || { kill "$WEB" 2>/dev/null || true; wait "$WEB" 2>/dev/null || true; }
  [ -z "${METER:-}" ] || kill "$METER" 2>/dev/null || true
  stop_workers
  stop_pg
  say "stopped"
}
trap 'stop_all; exit 0' INT TERM
trap stop_all EXIT

start_pg pg
[ -s "$STATE/secret" ] || (umask 077; "$PY" -c 'import secrets; print(secrets.token_urlsafe(50))' >"$STATE/secret")
PORT=$(free_port "${STROM_PORT:-8000}")
export STROM_SECRET_KEY="$(cat "$STATE/secret")" STROM_DATABASE_URL="$PG_URL" STROM_DEMO=1 STROM_HTTPS=0
export STROM_ALLOWED_HOSTS=127.0.0.1,localhost
# A simulated meter on the half-built boat of the demo, with two hidden faults.
METER_PORT=$(free_port 8151)
export STROM_METER_URL="http://127.0.0.1:$METER_PORT" STROM_METER_TOKEN="$(cat "$STATE/secret")"
"$PY" -m strom_meter @server/apps/jobs/demo_data/meter.args --port "$METER_PORT" &
METER=$!
"$PY" server/manage.py load_demo
start_workers 2
"$VENV/bin/gunicorn" config.wsgi --chdir server --bind "127.0.0.1:$PORT" --workers 2 --threads 4 \
  --worker-class gthread --no-control-socket --log-level warning &
WEB=$!
"$PY" - "$PORT" <<'PY'
import sys, time, urllib.request
for _ in range(150):
    try:
        urllib.request.urlopen(f"http://127.0.0.1:{sys.argv[1]}/api/session", timeout=2)
        break
    except OSError:
        time.sleep(0.1)
PY
say "ready: http://127.0.0.1:$PORT   (Ctrl-C stops it)"
wait "$WEB"
