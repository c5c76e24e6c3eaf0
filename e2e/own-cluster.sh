#!/usr/bin/env bash
# A PostgreSQL cluster of a test's own, to be stopped under load: make folder | start folder port | stop folder | remove folder
cd "$(dirname "$0")/.." || exit 1
. tools/postgres.sh
find_postgres
cluster_folder "$2"
case $1 in
  make) start_cluster test-only && echo "$PG_PORT" ;;
  start) start_cluster test-only '' "$3" ;;
  # As when its process dies: nothing is tidied up, and the start has to recover.
  stop) pg_run "$PG_BIN/pg_ctl" -D "$PG_DATA" -m immediate -w stop >/dev/null ;;
  remove) stop_cluster; rm -rf "$PG_DATA" ;;
esac
