#!/bin/sh
# Makes .venv/ with the pinned packages, and sees to the few system libraries that Qt needs.
# Usage: tools/setup.sh [python]
set -eu
cd "$(dirname "$0")/.."
python=${1:-python3}

libraries="libegl1 libgl1 libxkbcommon0 libfontconfig1 libdbus-1-3 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libxcb-image0 libxcb-render-util0 libxcb-xinerama0"
if command -v dpkg-query >/dev/null 2>&1; then
    missing=""
    for library in $libraries; do
        dpkg-query -W -f='${Status}' "$library" 2>/dev/null | grep -q "install ok installed" || missing="$missing $library"
    done
    if [ -n "$missing" ]; then
        if [ "$(id -u)" = 0 ]; then
            echo "installing$missing"
            apt-get update -q >/dev/null
            # shellcheck disable=SC2086
            DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends $missing >/dev/null
        else
            echo "Qt needs these system libraries, and only root can install them: apt-get install$missing" >&2
            exit 1
        fi
    fi
fi

"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || {
    echo "Python 3.11 or newer is needed; say make PYTHON=/path/to/python3.11" >&2
    exit 1
}
[ -x .venv/bin/python ] || "$python" -m venv .venv
.venv/bin/python -m pip install -q --disable-pip-version-check -r requirements.lock
.venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
echo "compiling, once: about a minute"
.venv/bin/python tools/compile_all.py
touch .venv/ready
