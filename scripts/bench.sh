# Times of the engine, then of the server under load; `./strom bench load` is the second alone.
ready_system test
ready_python
if [ "${1:-}" = load ]; then
  shift
else
  "$PY" -m bench.run "$@"
  [ $# -eq 0 ] || exit 0
fi
trap 'stop_pg' EXIT
trap 'stop_pg; exit 130' INT TERM
start_pg pgtest
export STROM_SECRET_KEY=bench STROM_DATABASE_URL="$PG_URL" STROM_HTTPS=0 STROM_DEMO=1 STROM_ALLOWED_HOSTS=127.0.0.1
"$PY" -m tests.load.run "$@"
