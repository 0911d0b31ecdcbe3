#!/bin/sh
# Installs PostgreSQL, a C compiler (code is read by a parser that is written in C), and Chromium for tests, with apt-get when they are missing and this
# is possible; else says what to install.
set -eu

need() {
	command -v "$1" >/dev/null 2>&1 && return
	echo "cobrik needs $2: please install it" >&2
	exit 1
}
need go "Go, version 1.26 or later (go.dev)"
need node "Node.js, version 20 or later, with npm"
need npm "npm"

missing=""
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null 2>&1 || missing="$missing postgresql"
command -v gcc >/dev/null 2>&1 || missing="$missing gcc libc6-dev"
[ "${1:-}" != tests ] || command -v chromium >/dev/null 2>&1 || command -v google-chrome >/dev/null 2>&1 || missing="$missing chromium"
[ -n "$missing" ] || exit 0

if ! command -v apt-get >/dev/null 2>&1; then
	echo "please install:$missing" >&2
	exit 1
fi
if [ "$(id -u)" = 0 ]; then
	run=""
elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
	run="sudo"
else
	echo "please install, as an administrator: apt-get install$missing" >&2
	exit 1
fi
echo "installing$missing"
export DEBIAN_FRONTEND=noninteractive
$run apt-get update -qq
# shellcheck disable=SC2086 # a list of packages
$run apt-get install -y -qq --no-install-recommends $missing >/dev/null
