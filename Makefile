# Two commands do everything on a fresh machine: make demo, make test.

.PHONY: demo dev test quick bench compare-layout compare-svg soak setup test-setup build web api check unit fuzz screenshots clean

demo: setup build
	./bin/cobrik demo

test: test-setup web check unit

# The demo with the front end read anew at every change, at http://127.0.0.1:7190.
dev: setup build
	./bin/cobrik demo --dev 127.0.0.1:7190 & server=$$!; trap "kill $$server" EXIT; cd web && npm run --silent dev

# Under a minute once things are built: formats, types, linters, the front end's tests, core's.
quick: web/node_modules
	test -z "$$(gofmt -l cmd core store service server gitrepo notice standin web/*.go demo e2e docs)"
	go vet ./core/... ./service/... ./store/...
	cd web && npm run --silent check && npm run --silent test
	go test -short ./core/...

# Benchmarks, printed as a table: time and memory an operation.
bench: test-setup web
	go test -run '^$$' -bench . -benchmem ./core/... ./service ./e2e | grep -E '^(Benchmark|pkg|ok)'

# Lays N random trees of each kind out, here and in Chromium, and prints how many agree.
N ?= 300
compare-layout: test-setup web
	COBRIK_LAYOUT_TREES=$(N) go test -count=1 -timeout 60m -v -run TestSolverAgrees ./core/layout | grep -E 'agree|seed|^ +\{|FAIL'

# Draws N SVG files of each package again, here and in Chromium, and prints the rates and the worst; DIR is a folder of folders of one's own.
DIR ?=
compare-svg: test-setup web
	COBRIK_SVG_FILES=$(N) COBRIK_SVG_DIR=$(DIR) go test -count=1 -timeout 60m -v -run TestRealFilesAreDrawnAgain ./core/design | grep -E 'right|%|refused|FAIL'

# Kills the program, its database and both at random moments under writes, a thousand times: what was acknowledged is there.
soak: test-setup web
	COBRIK_KILLS=100 go test -count=10 -timeout 120m -v -run TestNothingAcknowledgedIsLost ./cmd/cobrik

# Installs what is missing, or says what to install; tests want Chromium, too.
setup:
	./scripts/setup.sh

test-setup:
	./scripts/setup.sh tests

build: web
	go build -o bin/cobrik ./cmd/cobrik

web/node_modules: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	touch web/node_modules

# The front end, built when something of it changed.
web: web/dist/built

web/dist/built: web/node_modules web/index.html $(wildcard web/*.ts web/tsconfig.json) $(shell find web/src web/preview web/public -type f)
	cd web && npm run --silent build >/dev/null
	touch $@

# Writes the API's description and its TypeScript types out of the Go types.
api: web
	go run ./cmd/cobrik openapi > web/src/api/openapi.json
	cd web && npm run --silent api >/dev/null

check:
	./scripts/check.sh

unit:
	cd web && npm run --silent test
	COBRIK_REFERENCES=required go test -timeout 20m ./...

# Looks for crashing input, half a minute a reader.
fuzz:
	go test -run '^$$' -fuzz FuzzParse -fuzztime 30s -fuzzminimizetime 10x ./core/color
	go test -run '^$$' -fuzz FuzzParse -fuzztime 30s -fuzzminimizetime 10x ./core/css
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./core/token
	go test -run '^$$' -fuzz FuzzMeet -fuzztime 30s -fuzzminimizetime 10x ./core/token
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./core/jsontree
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./core/design
	go test -run '^$$' -fuzz FuzzImportSVG -fuzztime 30s -fuzzminimizetime 10x ./core/design
	go test -run '^$$' -fuzz FuzzSolve -fuzztime 30s -fuzzminimizetime 10x ./core/layout
	go test -run '^$$' -fuzz FuzzAdd -fuzztime 30s -fuzzminimizetime 10x ./core/font
	go test -run '^$$' -fuzz FuzzContracts -fuzztime 30s -fuzzminimizetime 10x ./core/contract
	go test -run '^$$' -fuzz FuzzConditionsInText -fuzztime 30s -fuzzminimizetime 10x ./core/contract
	go test -run '^$$' -fuzz 'FuzzRead$$' -fuzztime 30s -fuzzminimizetime 10x ./core/contract
	go test -run '^$$' -fuzz FuzzReadRich -fuzztime 30s -fuzzminimizetime 10x ./core/contract
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./core/content
	go test -run '^$$' -fuzz FuzzRich -fuzztime 30s -fuzzminimizetime 10x ./core/content
	go test -run '^$$' -fuzz FuzzReadLock -fuzztime 30s -fuzzminimizetime 10x ./core/publish
	go test -run '^$$' -fuzz FuzzParse -fuzztime 30s -fuzzminimizetime 10x ./core/trial
	go test -run '^$$' -fuzz FuzzTrees -fuzztime 30s -fuzzminimizetime 10x ./core/source/syntax
	go test -run '^$$' -fuzz FuzzMerge -fuzztime 30s -fuzzminimizetime 10x ./core/source/merge
	go test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./core/source

# Pictures of the main views from the demo's data, for docs/screenshots.
screenshots: test-setup build
	COBRIK_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./e2e

clean:
	rm -rf bin web/dist/app web/dist/preview web/dist/site web/dist/built
