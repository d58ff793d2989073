# Make the pictures in docs/screenshots anew, from the demo data.
ready_system test
ready_python
ready_frontend
ready_static
trap 'stop_pg' EXIT
trap 'stop_pg; exit 130' INT TERM
start_pg pgtest "-c fsync=off"
export STROM_SECRET_KEY=shots STROM_DATABASE_URL="$PG_URL" STROM_HTTPS=0 STROM_DEMO=1 STROM_ALLOWED_HOSTS=127.0.0.1
"$PY" -m tests.browser.shots "$@"
