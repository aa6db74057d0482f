# A private MariaDB on loopback. Sourced by bin/start and bin/test; needs ROOT set.

as_root() { if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else echo "Installing needs root or sudo: $*" >&2; return 1; fi; }

# apt ARGUMENTS ...: apt-get, which waits while another one is at work; up to ten minutes.
apt() {
  local said waited=0
  until said=$(as_root env DEBIAN_FRONTEND=noninteractive apt-get -qq -o DPkg::Lock::Timeout=60 "$@" 2>&1 >/dev/null); do
    case $said in
      *"Could not get lock"*|*"Unable to lock"*|*"Unable to acquire the dpkg frontend lock"*) ;;
      *) echo "$said" >&2; return 1 ;;
    esac
    [ "$waited" = 0 ] && echo "Waiting for another installation of packages to end ..."
    waited=$((waited + 1))
    [ "$waited" -ge 120 ] && { echo "$said" >&2; return 1; }
    sleep 5
  done
}

# install_packages COMMAND PACKAGE ...: Debian packages, where the command is not there yet.
install_packages() {
  local command=$1; shift
  command -v "$command" >/dev/null && return 0
  echo "Installing $* (Debian packages) ..."
  apt update || { echo "apt-get update failed; is Debian's package archive reachable?" >&2; return 1; }
  apt install -y --no-install-recommends "$@" || { echo "Installing $* failed." >&2; return 1; }
}

# install_modules: npm packages from the lock file, where it has changed since they were installed. One run at a time.
install_modules() {
  local stamp="$ROOT/node_modules/.chronometra-lock" want
  want=$(sha256sum "$ROOT/package-lock.json" | cut -d' ' -f1)
  [ "$(cat "$stamp" 2>/dev/null)" = "$want" ] && return 0
  echo "Installing npm packages from the lock file (about two minutes) ..."
  (cd "$ROOT" && npm ci --no-audit --no-fund --loglevel=error) || { echo "npm ci failed." >&2; return 1; }
  echo "$want" > "$stamp"
}

# build_if_changed: compiles and bundles, where a source has changed since.
build_if_changed() {
  local stamp="$ROOT/var/built" want
  want=$(cd "$ROOT" && find packages apps tsconfig*.json package-lock.json -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  [ "$(cat "$stamp" 2>/dev/null)" = "$want" ] && [ -f "$ROOT/apps/server/dist/main.js" ] && [ -f "$ROOT/apps/web/dist/index.html" ] && return 0
  echo "Building ..."
  (cd "$ROOT" && npm run --silent build >"$ROOT/var/build.log" 2>&1) || { cat "$ROOT/var/build.log" >&2; echo "The build failed." >&2; return 1; }
  echo "$want" > "$stamp"
}

# with_lock NAME COMMAND ...: one at a time among all runs in this checkout; freed when the process dies.
with_lock() {
  local name=$1; shift
  mkdir -p "$ROOT/var"
  exec 9>"$ROOT/var/$name.lock"
  flock 9
  "$@"; local result=$?
  flock -u 9; exec 9>&-
  return $result
}

# free_port: a port that nothing listens on.
free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

# database_start DATA [OPTION ...]: starts a server on DATA and sets DB_PORT, DB_SOCKET, DB_PID.
# Its socket lies in a folder of its own, since the path of a socket must be short.
database_start() {
  local data=$1; shift
  local server; server=$(command -v mariadbd || echo /usr/sbin/mariadbd)
  local who=()
  [ "$(id -u)" = 0 ] && who=(--user=root)
  mkdir -p "$(dirname "$data")"
  if [ ! -d "$data" ]; then
    # Into a temporary folder first: one that was not finished is never taken for a database.
    rm -rf "$data".tmp.*
    local fresh="$data.tmp.$$"
    mariadb-install-db --no-defaults "${who[@]}" --datadir="$fresh" --auth-root-authentication-method=normal --skip-test-db --skip-name-resolve >"$data.log" 2>&1 \
      || { echo "The database could not be prepared; see $data.log" >&2; return 1; }
    mv "$fresh" "$data"
  fi
  DB_FOLDER=$(mktemp -d /tmp/chronometra.XXXXXX)
  DB_SOCKET="$DB_FOLDER/s"
  DB_PORT=$(free_port)
  # In a session of its own, so that Ctrl-C reaches the application first and the database last;
  # and told to stop when this script dies, however it dies.
  setsid setpriv --pdeathsig TERM "$server" --no-defaults "${who[@]}" --datadir="$data" --socket="$DB_SOCKET" --pid-file="$DB_FOLDER/pid" \
    --bind-address=127.0.0.1 --port="$DB_PORT" --skip-name-resolve --default-time-zone=+00:00 \
    --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci --max-allowed-packet=256M \
    --innodb-buffer-pool-size=256M --innodb-log-file-size=128M "$@" >>"$data.log" 2>&1 8>&- 9>&- &
  DB_PID=$!
  local i
  for i in $(seq 1 300); do
    mariadb-admin --no-defaults -u root --socket="$DB_SOCKET" ping >/dev/null 2>&1 && return 0
    kill -0 "$DB_PID" 2>/dev/null || { echo "The database stopped at once; see $data.log" >&2; tail -n 5 "$data.log" >&2; return 1; }
    sleep 0.1
  done
  echo "The database did not answer within 30 s; see $data.log" >&2
  return 1
}

# database_user NAME USER PASSWORD: a user who may read and write the rows of a database and nothing else: neither empty, alter
# nor drop a table, nor take away what keeps baselines as they are.
database_user() {
  mariadb --no-defaults -u root --socket="$DB_SOCKET" <<SQL
create user if not exists '$2'@'127.0.0.1';
alter user '$2'@'127.0.0.1' identified by '$3';
grant select, insert, update, delete on $1.* to '$2'@'127.0.0.1';
SQL
}

database_stop() {
  [ -n "${DB_PID:-}" ] || return 0
  mariadb-admin --no-defaults -u root --socket="$DB_SOCKET" shutdown >/dev/null 2>&1 || kill "$DB_PID" 2>/dev/null
  wait "$DB_PID" 2>/dev/null
  rm -rf "$DB_FOLDER"
  DB_PID=
}
