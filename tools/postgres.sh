# Sourced by ./start and ./test: finds or installs what is missing, and keeps a PostgreSQL cluster of the project's own.
# The server refuses to run as root: then its programs run as the ordinary user that Debian's package makes.

say() { printf '%s\n' "$*" >&2; }
fail() { say "$@"; exit 1; }

as_root() { if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else return 127; fi; }

install_packages() { # what for, packages…
  local purpose=$1; shift
  command -v apt-get >/dev/null || fail "$purpose is not installed, and this is not a Debian machine. Install it by hand: $*"
  say "Installing $purpose ($*) …"
  { as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@"; } >/dev/null 2>&1 ||
    fail "$purpose could not be installed. Install it by hand (as root: apt-get install $*), or look at the network, and try again."
}

need_node() {
  command -v node >/dev/null || fail "Node.js is not installed. Version 20.19 or later is needed."
  node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>22||(a===22&&b>=12)||(a===20&&b>=19)?0:1)' ||
    fail "Node.js $(node -v) is too old. Version 20.19 or later of 20, or 22.12 or later, is needed."
}

# To run the product, or (all) to test it, too: what only tests need is a third of the packages.
need_modules() { # all or nothing
  local omit=--omit=dev
  [ "${1:-}" = all ] && omit=
  if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ] || { [ -z "$omit" ] && [ ! -d node_modules/jasmine ]; }; then
    say "Installing packages (npm ci) …"
    npm ci $omit --no-audit --no-fund --loglevel=error >&2 || fail "The packages could not be installed. Look at the network and the npm registry, and try again."
    touch node_modules/.package-lock.json
  fi
}

find_postgres() {
  local initdb
  initdb=$(ls -d /usr/lib/postgresql/*/bin/initdb 2>/dev/null | sort -V | tail -n 1)
  PG_BIN=${initdb%/initdb}
}

need_postgres() {
  find_postgres
  [ -n "$PG_BIN" ] || { install_packages "PostgreSQL" postgresql; find_postgres; }
  [ -n "$PG_BIN" ] || fail "PostgreSQL was installed, but its programs were not found below /usr/lib/postgresql."
}

pg_run() { if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi; }

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{process.stdout.write(`${s.address().port}\n`);s.close()})'; }

# A folder of the project, unless the ordinary user may not enter it (a project below /root): then one beside Debian's clusters.
cluster_folder() { # wanted folder
  PG_DATA=$1
  mkdir -p "$(dirname "$PG_DATA")"
  if [ "$(id -u)" = 0 ] && ! runuser -u postgres -- test -x "$(dirname "$PG_DATA")"; then
    PG_DATA="/var/lib/postgresql/woodruff-$(printf '%s' "$1" | cksum | cut -d' ' -f1)"
  fi
}

# Makes the cluster when there is none and starts it on a port of loopback, a free one where none is named. Sets PG_PORT.
start_cluster() { # secret, more server options, port
  local secret=$1 options=${2:-} port=${3:-}
  if [ ! -f "$PG_DATA/PG_VERSION" ]; then
    mkdir -p "$PG_DATA"
    chmod 700 "$PG_DATA"
    [ "$(id -u)" = 0 ] && chown postgres "$PG_DATA"
    local file; file=$(mktemp)
    printf '%s' "$secret" > "$file"
    [ "$(id -u)" = 0 ] && chown postgres "$file"
    pg_run "$PG_BIN/initdb" -D "$PG_DATA" -U woodruff -A scram-sha-256 --pwfile="$file" -E UTF8 --locale=C.UTF-8 >/dev/null || fail "The database cluster could not be made in $PG_DATA."
    rm -f "$file"
  fi
  if pg_run "$PG_BIN/pg_ctl" -D "$PG_DATA" status >/dev/null 2>&1; then
    fail "Woodruff's database is running already, most likely from another ./start in this folder. Use that one, or stop it first."
  fi
  PG_PORT=${port:-$(free_port)}
  # The socket path may be too long in deep folders; loopback is enough.
  pg_run "$PG_BIN/pg_ctl" -D "$PG_DATA" -l "$PG_DATA/server.log" -w -o "-p $PG_PORT -h 127.0.0.1 -c unix_socket_directories='' $options" start >/dev/null ||
    fail "PostgreSQL did not start. Its log is $PG_DATA/server.log."
}

stop_cluster() { pg_run "$PG_BIN/pg_ctl" -D "$PG_DATA" -m fast -w stop >/dev/null 2>&1; }

sql() { PGPASSWORD=$1 "$PG_BIN/psql" -q -h 127.0.0.1 -p "$PG_PORT" -U woodruff -d postgres -v ON_ERROR_STOP=1 -c "$2"; }
