# Two commands do everything on a fresh machine: make demo, make test.

.PHONY: demo test bench compare-layout setup build web api check unit fuzz screenshots clean

demo: setup build
	./bin/cobrik demo

test: setup web check unit

# Benchmarks, printed as a table: time and memory an operation.
bench: setup web
	go test -run '^$$' -bench . -benchmem ./core/... | grep -E '^(Benchmark|pkg|ok)'

# Lays N random trees of each kind out, here and in Chromium, and prints how many agree.
N ?= 300
compare-layout: setup web
	COBRIK_LAYOUT_TREES=$(N) go test -count=1 -timeout 60m -v -run TestSolverAgrees ./core/layout | grep -E 'agree|seed|^ +\{|FAIL'

# Installs what is missing, or says what to install.
setup:
	./scripts/setup.sh

build: web
	go build -o bin/cobrik ./cmd/cobrik

web/node_modules: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	touch web/node_modules

web: web/node_modules
	cd web && npm run --silent build >/dev/null

# Writes the API's description and its TypeScript types out of the Go types.
api: web
	go run ./cmd/cobrik openapi > web/src/api/openapi.json
	cd web && npm run --silent api >/dev/null

check:
	./scripts/check.sh

unit:
	go test -timeout 15m ./...

# Looks for crashing input, half a minute a reader.
fuzz:
	go test -run '^$$' -fuzz FuzzParse -fuzztime 30s ./core/color
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s ./core/token
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s ./core/jsontree
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s ./core/design
	go test -run '^$$' -fuzz FuzzImportSVG -fuzztime 30s ./core/design
	go test -run '^$$' -fuzz FuzzSolve -fuzztime 30s ./core/layout
	go test -run '^$$' -fuzz FuzzAdd -fuzztime 30s ./core/font
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 1s ./core/contract

# Pictures of the main views from the demo's data, for docs/screenshots.
screenshots: setup build
	COBRIK_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./e2e

clean:
	rm -rf bin web/dist/app web/dist/preview
