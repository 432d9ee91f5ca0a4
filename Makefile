# Everything a person needs: make demo, make test, make build, make bench, make lint.
.PHONY: demo test build console bench frameworks lint chaos hostile screenshots packages

# what “olive --version” tells; empty outside of a clone
FROM := $(shell git log -1 --abbrev=12 --format='%h of %cs' 2>/dev/null)$(shell git diff --quiet HEAD 2>/dev/null || echo ', changed')

# the linters, at one version; .golangci.yml says which of them
LINT := go run github.com/golangci/golangci-lint/v2/cmd/golangci-lint@v2.15.0

build: console
	go build -ldflags "-X 'oliveledger/internal/cli.builtFrom=$(FROM)'" -o bin/olive ./cmd/olive

console: console/node_modules/.done
	cd console && npm run --silent build

console/node_modules/.done: console/package-lock.json
	cd console && npm ci --no-audit --no-fund --loglevel=error
	touch $@

demo:
	scripts/install.sh demo
	$(MAKE) --no-print-directory build
	scripts/demo.sh

test:
	scripts/install.sh test
	$(MAKE) --no-print-directory build frameworks
	cd console && npm test --silent
	go test -timeout 30m ./...

# style sheets of CSS frameworks, which pages of tests and benchmarks take
frameworks:
	cd typeset/testdata/frameworks && npm ci --silent && npm run --silent build

bench: frameworks
	go test -run '^$$' -bench . -benchmem -timeout 60m ./typeset ./internal/cli ./internal/service ./internal/service/store ./e2e

# parts of a cluster die at random for ten minutes
chaos:
	scripts/install.sh test
	OLIVE_CHAOS=10m go test -v -count=1 -timeout 30m ./internal/chaos

# damaged pages, fonts, pictures and records are sent to a service for half an hour
hostile:
	scripts/install.sh test
	OLIVE_HOSTILE=30m go test -v -count=1 -timeout 40m ./internal/hostile

lint: console/node_modules/.done
	$(LINT) run ./...
	cd console && npm run --silent check

screenshots: build
	scripts/install.sh test
	OLIVE_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./e2e
	scripts/pictures.sh

# packages for machines of others, into dist/
packages: console
	packages/build.sh
