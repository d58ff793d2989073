# Shared by every command: paths, messages, free ports.
STATE=$ROOT/.strom
VENV=$ROOT/.venv
PY=$VENV/bin/python
export OPENBLAS_NUM_THREADS=1 OMP_NUM_THREADS=1
export PYTHONDONTWRITEBYTECODE=1
mkdir -p "$STATE"

say() { printf '%s\n' "strom: $*"; }
die() { printf '%s\n' "strom: $*" >&2; exit 1; }

# free_port FIRST: the first port from FIRST that nothing listens on, said when one was passed over.
free_port() {
  "$PY" - "$1" <<'PY'
import socket, sys
first = int(sys.argv[1])
for port in range(first, first + 200):
    with socket.socket() as s:
        s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            s.bind(("127.0.0.1", port))
        except OSError:
            continue
    if port != first:
        print(f"strom: port {first} is busy, taking {port}", file=sys.stderr)
    print(port)
    break
else:
    sys.exit(f"strom: no free port from {first} to {first + 199}")
PY
}

# start_workers COUNT: workers of the queue in PostgreSQL; their process numbers stand in WORKERS.
start_workers() {
  WORKERS=
  for _ in $(seq "$1"); do
    "$PY" server/manage.py day_worker >>"$STATE/workers.log" 2>&1 &
    WORKERS="$WORKERS $!"
  done
}

stop_workers() {
  for pid in ${WORKERS:-}; do kill "$pid" 2>/dev/null || true; done
  for pid in ${WORKERS:-}; do wait "$pid" 2>/dev/null || true; done
  WORKERS=
}

# fingerprint FILES...: one number for the contents and names of files and folders.
fingerprint() { find "$@" -type f -print0 | LC_ALL=C sort -z | xargs -0 cksum | cksum | cut -d' ' -f1; }

# unless_same STAMP VALUE: true when the stamp holds another value than given.
unless_same() { [ "$(cat "$1" 2>/dev/null || true)" != "$2" ]; }
