# Server and front end, both reloading on change.
ready_system
ready_python
ready_modules
stop_all() {
  trap '' INT TERM
  trap - EXIT
  for pid in ${VITE:-} ${WEB:-}; do kill "$pid" 2>/dev/null || true; done
  stop_workers
  stop_pg
}
trap 'stop_all; exit 0' INT TERM
trap stop_all EXIT
start_pg pg
export STROM_SECRET_KEY=development STROM_DATABASE_URL="$PG_URL" STROM_DEMO=1 STROM_DEBUG=1 STROM_HTTPS=0
export STROM_ALLOWED_HOSTS=127.0.0.1,localhost
"$PY" server/manage.py load_demo
start_workers 1
API_PORT=$(free_port 8000)
export API_PORT
"$PY" server/manage.py runserver "127.0.0.1:$API_PORT" &
WEB=$!
(cd frontend && exec node_modules/.bin/vite) &
VITE=$!
wait "$VITE"
