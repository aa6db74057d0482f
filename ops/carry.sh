# What bin/export and bin/import have in common. Needs ROOT, what (leave or arrive) and usage; reads the arguments.

file= data="$ROOT/var/data" database= moved=()
while [ $# -gt 0 ]; do
  case $1 in
    --data) data=${2:?--data needs a folder}; shift 2 ;;
    --database) database=${2:?--database needs an address}; shift 2 ;;
    --moved) moved=(--moved); shift ;;
    --help|-h) usage; exit 0 ;;
    --*) echo "Unknown option $1" >&2; usage >&2; exit 2 ;;
    *) [ -z "$file" ] || { echo "One file only, not \"$file\" and \"$1\"" >&2; exit 2; }; file=$1; shift ;;
  esac
done
[ -n "$file" ] || { usage >&2; exit 2; }
[ "$what" = leave ] || [ "$file" = - ] || [ -r "$file" ] || { echo "There is no file $file that can be read." >&2; exit 1; }

. "$ROOT/ops/database.sh"
prepare() { install_modules && build_if_changed; }
with_lock install prepare >&2

DB_PID=
trap database_stop EXIT
trap 'exit 130' INT TERM
if [ -z "$database" ]; then
  [ "$what" = arrive ] || [ -d "$data/mariadb" ] || { echo "There is no database in $data." >&2; exit 1; }
  mkdir -p "$data"
  data=$(cd "$data" && pwd)
  exec 8>"$data/lock"
  if flock -n 8; then
    install_packages mariadb-install-db mariadb-server >&2
    database_start "$data/mariadb"
    mariadb --no-defaults -u root --socket="$DB_SOCKET" -e 'create database if not exists chronometra'
    database="mysql://root@127.0.0.1:$DB_PORT/chronometra"
  elif [ "$what" = leave ]; then
    # It runs: people go on working while it is read.
    database=$(cat "$data/running" 2>/dev/null) || { echo "Chronometra is starting on $data; try again in a moment." >&2; exit 1; }
  else
    echo "Chronometra is running on $data; stop it first, or give another --data." >&2
    exit 1
  fi
fi
CHRONOMETRA_DATABASE=$database node --enable-source-maps "$ROOT/apps/server/dist/carry.js" "$what" "$file" "${moved[@]}"
