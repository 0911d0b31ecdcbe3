#!/bin/sh
# The linters, and that generated files are as the Go types say.
set -eu

unformatted=$(gofmt -l cmd core store service server gitrepo notice standin web/*.go demo e2e docs)
if [ -n "$unformatted" ]; then
	echo "not gofmt'ed: $unformatted" >&2
	exit 1
fi
go vet ./...
go tool staticcheck ./...

described=$(mktemp -d)
trap 'rm -rf "$described"' EXIT
go run ./cmd/cobrik openapi > "$described/openapi.json"
(cd web && npx --no-install openapi-typescript "$described/openapi.json" -o "$described/schema.ts" >/dev/null)
if ! cmp -s "$described/openapi.json" web/src/api/openapi.json || ! cmp -s "$described/schema.ts" web/src/api/schema.ts; then
	echo "the API changed: run make api, and commit what it writes" >&2
	exit 1
fi
cd web
npm run --silent check
