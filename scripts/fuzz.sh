# Odd calls against the server in one process, on a database of its own.
ready_system
ready_python
trap 'stop_pg' EXIT
trap 'stop_pg; exit 130' INT TERM
start_pg pgfuzz "-c fsync=off -c synchronous_commit=off -c full_page_writes=off"
export STROM_SECRET_KEY=fuzz STROM_DATABASE_URL="$PG_URL" STROM_HTTPS=0 STROM_ALLOWED_HOSTS=testserver
PYTHONPATH=$ROOT/engine:$ROOT/calc:$ROOT/server:$ROOT "$PY" -m fuzz.run "$@"
