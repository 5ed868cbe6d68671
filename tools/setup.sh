# Sourced by start and test: Debian packages and the virtual environment, each only when missing.

# What is compiled is kept, whatever the shell was told: every worker and every server a test starts would do it again.
unset PYTHONDONTWRITEBYTECODE

setup_packages() { # run | test | cluster
  local wanted=()
  command -v /usr/bin/python3 >/dev/null || wanted+=(python3)
  /usr/bin/python3 -c 'import ensurepip, venv' 2>/dev/null || wanted+=(python3-venv)
  if [ -z "${VINEGATE_DATABASE_URL:-}" ]; then
    command -v mariadbd >/dev/null || [ -x /usr/sbin/mariadbd ] || wanted+=(mariadb-server-core)
    command -v mariadb-install-db >/dev/null || wanted+=(mariadb-server-core)
    command -v my_print_defaults >/dev/null || wanted+=(mariadb-client-core)
  fi
  if [ "$1" = test ]; then
    [ -x /usr/bin/chromium-headless-shell ] || wanted+=(chromium-headless-shell)
    command -v pdftotext >/dev/null || wanted+=(poppler-utils)
    command -v tsc >/dev/null || wanted+=(node-typescript)
  fi
  if [ "$1" != run ]; then
    [ -e /usr/lib/galera/libgalera_smm.so ] || wanted+=(galera-4)
    command -v rsync >/dev/null || wanted+=(rsync)
    [ -x /usr/sbin/haproxy ] || wanted+=(haproxy)
    command -v openssl >/dev/null || wanted+=(openssl)
  fi
  # The database's files belong to a user of their own.
  if [ "$(id -u)" -eq 0 ] && [ -z "${VINEGATE_DATABASE_URL:-}" ] && ! id vinegate-db >/dev/null 2>&1; then
    /usr/sbin/useradd --system --user-group --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin vinegate-db
  fi
  [ ${#wanted[@]} -eq 0 ] && return 0
  local sudo=""
  [ "$(id -u)" -eq 0 ] || sudo="sudo"
  echo "Installing from Debian: ${wanted[*]}" >&2
  $sudo apt-get update -qq >&2
  DEBIAN_FRONTEND=noninteractive $sudo apt-get install -qq -y --no-install-recommends "${wanted[@]}" >&2
}

# A cluster's nodes bring each other up to date by scripts of mariadb-server; dump and log reader are mariadb-client's. Those
# alone are taken out of the packages: nothing is installed, and no server is started.
setup_cluster() {
  [ -x .cluster/bin/mariadb-binlog ] && return 0
  local folder
  folder=$(mktemp -d)
  mkdir -p .cluster/sst .cluster/bin
  (cd "$folder" && apt-get download -qq mariadb-server mariadb-client >&2 && for one in *.deb; do dpkg-deb -x "$one" .; done)
  cp "$folder"/usr/bin/wsrep_sst_common "$folder"/usr/bin/wsrep_sst_rsync .cluster/sst/
  cp "$folder"/usr/bin/mariadb-dump "$folder"/usr/bin/mariadb-binlog .cluster/bin/
  rm -rf "$folder"
}

setup_python() { # LOCKFILE...
  local stamp
  stamp=$(cat "$@" requirements-uv.lock pyproject.toml | sha256sum | cut -d' ' -f1)
  [ "$(cat .venv/stamp 2>/dev/null)" = "$stamp" ] && return 0
  # The development environment holds everything that running needs: keep it.
  [ "$*" = requirements.lock ] && [ "$(cat .venv/stamp-run 2>/dev/null)" = "$stamp" ] && return 0
  echo "Setting up Python" >&2
  [ -x .venv/bin/python ] || /usr/bin/python3 -m venv .venv
  .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements-uv.lock >&2
  local locks=()
  local lock
  for lock in "$@"; do locks+=(-r "$lock"); done
  .venv/bin/uv pip install -q --compile-bytecode --python .venv/bin/python --require-hashes "${locks[@]}"
  .venv/bin/uv pip install -q --python .venv/bin/python --no-deps --no-build-isolation -e .
  cat requirements.lock requirements-uv.lock pyproject.toml | sha256sum | cut -d' ' -f1 >.venv/stamp-run
  echo "$stamp" >.venv/stamp
}
