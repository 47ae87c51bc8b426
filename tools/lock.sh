#!/bin/sh
# Renew locks/*.txt from pyproject.toml. Needs `uv` on the PATH; names no host.
set -eu
cd "$(dirname "$0")/.."
opts="--universal --python-version 3.11 --generate-hashes --no-emit-index-url
      --no-emit-find-links --no-header --no-annotate --quiet"
uv pip compile $opts --extra build pyproject.toml -o locks/run.txt
uv pip compile $opts --extra build --extra dev pyproject.toml -o locks/dev.txt
