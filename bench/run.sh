#!/usr/bin/env bash
# Measures the speed promises against a throwaway MariaDB.
set -euo pipefail
ROOT=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$ROOT"
. "$ROOT/ops/database.sh"
prepare() { install_modules && build_if_changed; }
with_lock install prepare
install_packages mariadb-install-db mariadb-server
install_packages chromium-headless-shell chromium-headless-shell
WORK=$(mktemp -d /tmp/chronometra-bench.XXXXXX)
DB_PID=
trap 'database_stop; rm -rf "$WORK"' EXIT
database_start "$WORK/mariadb" --innodb-flush-log-at-trx-commit=2
mariadb --no-defaults -u root --socket="$DB_SOCKET" -e 'create database bench'
CHRONOMETRA_BENCH_DATABASE="mysql://root@127.0.0.1:$DB_PORT/bench" node --import tsx bench/run.ts "$@"
