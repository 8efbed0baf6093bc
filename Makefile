# Everything is one command from a fresh clone; "make demo" is the one to begin with.
SHELL := /bin/bash
WEB   := src/Nachlass.Web
APP   := $(WEB)/bin/Release/net10.0/Nachlass.Web.dll
DEMO_DATA ?= $(or $(NACHLASS_DATA),$(CURDIR)/artifacts/demo)
export DOTNET_CLI_TELEMETRY_OPTOUT := 1
export DOTNET_NOLOGO := 1

.PHONY: demo run build web test bench screenshots format client

demo: build ## the app with the demo papers, renewed on each start
	@NACHLASS_DATA="$(DEMO_DATA)" NACHLASS_DEMO="$(CURDIR)/demo" exec dotnet $(APP)

run: build ## the app with your own papers
	@exec dotnet $(APP)

build: web
	@dotnet build $(WEB) -c Release -v quiet --nologo

# Installed and built again only when something it is made from is newer.
web: $(WEB)/wwwroot/index.html

web/node_modules/.package-lock.json: web/package.json web/package-lock.json
	@cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

$(WEB)/wwwroot/index.html: web/node_modules/.package-lock.json $(shell find web/src web/public web/index.html web/phone.html web/vite.config.ts -type f 2>/dev/null)
	@cd web && npm run --silent build
	@touch $@

client: ## writes docs/openapi.json and the front end's client anew
	@dotnet build $(WEB) -c Release -v quiet --nologo
	@NACHLASS_DATA="$$(mktemp -d)" NACHLASS_URL=http://127.0.0.1:0 dotnet $(APP) openapi docs/openapi.json
	@cd web && npm run --silent client > /dev/null

test: ## builds, checks and runs every test; the last line sums them up
	@.ci/test

bench: build ## measures against a reference in the same run, and writes docs/performance.md
	@NACHLASS_TEXTS="$(abspath $(TEXTS))" dotnet run -c Release --project bench/Nachlass.Bench

screenshots: build ## remakes docs/screenshots from the demo papers
	@dotnet run -c Release --project tests/Nachlass.Browser.Tests -- -explicit only

format:
	@dotnet tool restore > /dev/null && dotnet csharpier format .
	@cd web && npm run --silent format
