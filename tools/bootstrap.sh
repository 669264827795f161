#!/bin/sh
# Installs what is missing for `make demo`, `make test` or `make assets`; says in one line what to
# do when it can't.
set -eu
want=$1
cd "$(dirname "$0")/.."

stop() { echo "noema: $1" >&2; exit 1; }

missing=""
python3 -c 'import ensurepip, sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null || missing="$missing python3 python3-venv"
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || missing="$missing postgresql"
[ "$want" != test ] || [ -x /usr/bin/chromium ] || missing="$missing chromium"
# The browser driver's own Node needs this library, which a bare system hasn't.
[ "$want" != test ] || ls /usr/lib/*/libatomic.so.1 >/dev/null 2>&1 || missing="$missing libatomic1"
[ "$want" != assets ] || command -v npm >/dev/null || missing="$missing nodejs npm"

if [ -n "$missing" ]; then
    as_root=""
    if [ "$(id -u)" != 0 ]; then
        command -v sudo >/dev/null || stop "ask an administrator to install:$missing"
        as_root=sudo
    fi
    echo "Installing$missing …"
    $as_root apt-get update -qq || stop "Debian's package lists can't be fetched: check the network."
    $as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null \
        || stop "these packages can't be installed:$missing"
fi

# Only its program is wanted: installed, it would be started for the whole machine.
if [ "$want" != assets ] && [ ! -x .venv/nginx/usr/sbin/nginx ] \
    && ! PATH="$PATH:/usr/sbin" command -v nginx >/dev/null; then
    [ -x .venv/bin/python ] || python3 -m venv .venv || stop "no Python environment can be made in .venv: is the disk full?"
    echo "Fetching nginx …"
    mkdir -p .venv/nginx
    if ! (cd .venv/nginx && apt-get download -qq nginx >/dev/null 2>&1); then
        as_root=""
        [ "$(id -u)" = 0 ] || as_root=sudo
        $as_root apt-get update -qq || stop "Debian's package lists can't be fetched: check the network."
        (cd .venv/nginx && apt-get download -qq nginx >/dev/null 2>&1) || stop "nginx can't be fetched: check the network."
    fi
    dpkg -x .venv/nginx/nginx_*.deb .venv/nginx || stop "nginx can't be unpacked: is the disk full?"
    rm -f .venv/nginx/nginx_*.deb
fi

extras=""
[ "$want" = demo ] || extras="[test]"
stamp=".venv/.installed-$want"
if [ ! -e "$stamp" ] || [ pyproject.toml -nt "$stamp" ] || [ constraints.txt -nt "$stamp" ]; then
    [ -x .venv/bin/python ] || python3 -m venv .venv || stop "no Python environment can be made in .venv: is the disk full?"
    echo "Installing the Python packages …"
    # Built without pip's separate build environment, which doesn't know a site's own certificates.
    { .venv/bin/pip install --quiet --disable-pip-version-check -c constraints.txt setuptools \
        && .venv/bin/pip install --quiet --disable-pip-version-check -c constraints.txt \
            --no-build-isolation -e ".$extras"; } \
        || stop "the Python packages can't be installed: check the network and the disk."
    touch "$stamp"
fi
