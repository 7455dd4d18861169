#!/usr/bin/env bash
# Installs what package-lock.json names, unless that is done already.
set -euo pipefail
cd "$(dirname "$0")"
[ node_modules/.package-lock.json -nt package-lock.json ] || npm ci --no-progress
