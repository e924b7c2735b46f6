# shellcheck shell=bash
# demo, start and stop.
already_running() { # prints the address when our own server answers
  local pid port
  read -r pid port 2>/dev/null < "$VAR/app.pid" || return 1
  kill -0 "$pid" 2>/dev/null && grep -q velvet_hand "/proc/$pid/cmdline" 2>/dev/null || return 1
  echo "http://127.0.0.1:$port"
}

serve() { # serve DATABASE with_demo_data
  local database="$1" demo="$2" port="${VELVET_PORT:-8300}" address
  [[ "$port" =~ ^[0-9]+$ ]] && [ "$port" -ge 1024 ] && [ "$port" -le 65000 ] || die "VELVET_PORT is a number from 1024 to 65000."
  make_folders
  if address="$(already_running)"; then
    "$ROOT/scripts/pg" status >/dev/null 2>&1 || { say "its database was down; starting it"; "$ROOT/scripts/pg" start; }
    say "Velvet Hand is running already: $address  (./velvet stop ends it)"; return 0
  fi
  one_at_a_time
  need_packages "${PACKAGES[@]}"
  need_python runtime
  need_web
  "$ROOT/scripts/pg" start 9>&- # or PostgreSQL would hold the set-up lock for as long as it runs
  VELVET_DATABASE_URL="$("$ROOT/scripts/pg" url "$database")"; export VELVET_DATABASE_URL
  export VELVET_LOG="$VAR/server.log" # one line a request; the terminal only gets warnings
  local more=(); [ "$demo" = no ] || more=(--demo)
  "$PY" -m velvet_hand.cli migrate ${more[@]+"${more[@]}"}
  run_server "$port" "$demo"
}

answers() { # does a server speak at this port, not only a socket wait there?
  local line
  { exec 3<>"/dev/tcp/127.0.0.1/$1"; } 2>/dev/null || return 1
  printf 'GET /api/health HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n' >&3
  read -r line <&3; exec 3>&-
  [[ "$line" == HTTP/* ]]
}

run_server() { # the server takes the port itself, so that what answers there is ours
  local wanted="$1" demo="$2" host="${VELVET_HOST:-127.0.0.1}" pid port status=0 needle=""
  rm -f "$VAR/app.pid"
  "$PY" -m velvet_hand.cli serve --host "$host" --port "$wanted" --told "$VAR/app.pid" 9>&- &
  pid=$!
  exec 9>&-
  trap 'kill -TERM '"$pid"' 2>/dev/null || true' INT TERM
  local tries=0
  until read -r _ port 2>/dev/null < "$VAR/app.pid" && answers "$port"; do
    kill -0 "$pid" 2>/dev/null || { rm -f "$VAR/app.pid"; die "The server did not start; see the lines above."; }
    tries=$((tries + 1)); [ "$tries" -lt 300 ] || die "The server does not answer."
    sleep 0.1
  done
  [ "$port" = "$wanted" ] || say "Port $wanted is taken by another program; using $port."
  say "Velvet Hand: http://127.0.0.1:$port   (Ctrl-C or ./velvet stop ends it)"
  if [ "$demo" = yes ]; then # the simulated indicator, with a hand at a simulated machine
    "$PY" -m velvet_hand.instruments.simulated --server "http://127.0.0.1:$port" --gauge "Live plunger 0.001 mm" \
      --register wire-live </dev/null >"$VAR/needle.log" 2>&1 9>&- &
    needle=$!
  fi
  [ "$host" = 127.0.0.1 ] || say "Open to the network at $host: whoever reaches this machine can read and write."
  wait "$pid" || status=$?
  while kill -0 "$pid" 2>/dev/null; do wait "$pid" || status=$?; done
  [ -z "$needle" ] || kill "$needle" 2>/dev/null || true
  rm -f "$VAR/app.pid"
  "$ROOT/scripts/pg" stop
  case "$status" in 0|130|143) return 0 ;; *) return "$status" ;; esac
}

stop_all() {
  make_folders
  local pid port
  if already_running >/dev/null && read -r pid port < "$VAR/app.pid"; then
    kill -TERM "$pid"; for _ in $(seq 100); do kill -0 "$pid" 2>/dev/null || break; sleep 0.1; done
    say "stopped"
  fi
  rm -f "$VAR/app.pid"
  [ ! -s "$VAR/pg.secret" ] || "$ROOT/scripts/pg" stop
}
