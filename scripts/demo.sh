#!/usr/bin/env bash
# Installs, builds, fills the store with the sample projects on first use, and serves. PORT and DATA change where.
set -euo pipefail
cd "$(dirname "$0")/.."
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  npm ci
fi
npm run build
exec node cli/bin/open-kite.js serve --demo --port "${PORT:-4780}" --data "${DATA:-data}"
