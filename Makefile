# Gentle Ember. `make demo` and `make test` are all one needs; `make help` lists the rest.
SHELL := /bin/bash
.DEFAULT_GOAL := help
PY := .venv/bin
# Where it is set, every start reads all of its sources again: twice as long as need be.
unexport PYTHONDONTWRITEBYTECODE
STAMPS := .stamps
STATIC := src/gentle_ember/web/static
FRONTEND := $(shell find frontend/src frontend/static -type f 2>/dev/null) $(wildcard frontend/*.json frontend/*.js frontend/*.ts)
PYTHON3 := $(shell for p in python3.14 python3.13 python3.12 python3.11 python3; do \
	command -v $$p >/dev/null && $$p -c 'import sys, venv; sys.exit(sys.version_info < (3, 11))' 2>/dev/null && echo $$p && break; done)

.PHONY: help demo test dev lint lint-core lint-page lint-types format bench load kills mutants screenshots types unit browser clean prerequisites wheel

help: ## this list
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*##/\t/' | expand -t 14

prerequisites:
	@test -n "$(PYTHON3)" || { echo "Gentle Ember needs Python 3.11 or newer with venv (python3 --version says $$(python3 --version 2>&1))."; exit 1; }
	@command -v node >/dev/null || { echo "Gentle Ember needs Node 20 or newer to build its page; node was not found."; exit 1; }
	@node -e 'process.exit(+(process.versions.node.split(".")[0] < 20))' || { echo "Gentle Ember needs Node 20 or newer (node --version says $$(node --version))."; exit 1; }

$(STAMPS)/venv: requirements/runtime.txt | prerequisites
	@mkdir -p $(STAMPS)
	@test -d .venv || $(PYTHON3) -m venv .venv
	$(PY)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/runtime.txt
	@$(PY)/python -m compileall -q -j 2 .venv/lib >/dev/null || true
	@touch $@

$(STAMPS)/package: $(STAMPS)/venv pyproject.toml
	$(PY)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

$(STAMPS)/dev: requirements/dev.txt | $(STAMPS)/package
	$(PY)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/dev.txt
	@$(PY)/python -m compileall -q -j 2 .venv/lib >/dev/null || true
	@touch $@

$(STAMPS)/node: frontend/package-lock.json | prerequisites
	@mkdir -p $(STAMPS)
	cd frontend && npm ci --no-fund --no-audit --loglevel=error
	@touch $@

$(STATIC)/index.html: $(STAMPS)/node $(FRONTEND)
	cd frontend && npm run build --silent
	@touch $@

$(STAMPS)/chromium:
	@mkdir -p $(STAMPS)
	@command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || { \
		echo "Installing Chromium for the browser tests."; \
		SUDO=$$(test "$$(id -u)" = 0 || echo sudo); \
		$$SUDO apt-get update -qq && \
		{ $$SUDO apt-get install -y -qq chromium-headless-shell >/dev/null 2>&1 \
		|| $$SUDO apt-get install -y -qq chromium >/dev/null; }; }
	@touch $@

demo: $(STAMPS)/package $(STATIC)/index.html ## install, build, seed the demo scenario, serve it
	@$(PY)/gentle-ember demo

test: lint unit browser ## lint, types, unit and browser tests

lint: $(STAMPS)/dev $(STAMPS)/node ## ruff, mypy, layers, generated documents, eslint, svelte-check
	@$(MAKE) --no-print-directory --output-sync=target -j 3 lint-core lint-page lint-types
	@$(PY)/python tools/share.py

lint-core:
	$(PY)/ruff format --check --quiet . && $(PY)/ruff check --quiet .
	$(PY)/mypy --no-error-summary
	$(PY)/lint-imports --no-logo >/dev/null || $(PY)/lint-imports --no-logo
	@$(PY)/python -m gentle_ember.web.openapi $(STAMPS)/api
	@diff -r $(STAMPS)/api docs/api >/dev/null || { echo "docs/api is not current: run make types."; exit 1; }
	@$(PY)/python -m gentle_ember.web.published $(STAMPS)/published.ts
	@diff -q $(STAMPS)/published.ts frontend/src/lib/api/published.ts || { echo "The page's lists are not current: run make types."; exit 1; }
	@cd frontend && npx --no-install openapi-typescript ../docs/api/openapi.json -o ../$(STAMPS)/schema.d.ts >/dev/null
	@diff -q $(STAMPS)/schema.d.ts frontend/src/lib/api/schema.d.ts || { echo "The page's types are not current: run make types."; exit 1; }

lint-page:
	cd frontend && npm run --silent lint

lint-types:
	cd frontend && npm run --silent check

unit: $(STAMPS)/dev $(STAMPS)/node
	$(PY)/pytest -n 2 src tests --ignore=tests/browser --ignore=tests/bench
	cd frontend && npm run --silent test

browser: $(STAMPS)/dev $(STAMPS)/chromium $(STATIC)/index.html
	$(PY)/pytest -n 2 tests/browser

types: $(STAMPS)/dev $(STAMPS)/node ## write the OpenAPI document, the job schema and the page's types
	$(PY)/python -m gentle_ember.web.openapi docs/api
	$(PY)/python -m gentle_ember.web.published frontend/src/lib/api/published.ts
	cd frontend && npm run --silent types

format: $(STAMPS)/dev $(STAMPS)/node ## format everything
	$(PY)/ruff format --quiet . && $(PY)/ruff check --fix --quiet .
	cd frontend && npm run --silent format

dev: $(STAMPS)/dev $(STAMPS)/node ## server and page with hot reload, on the demo data
	@$(PY)/gentle-ember demo --seed-only
	@trap 'kill 0' EXIT; $(PY)/python -m gentle_ember.development & cd frontend && npm run dev

bench: $(STAMPS)/dev $(STATIC)/index.html ## speed as ratios within one run
	$(PY)/python -m pytest tests/bench -q -s --benchmark-disable

load: $(STAMPS)/dev $(STATIC)/index.html ## fifty people on ten thousand jobs, 200 streams, two weeks of memory
	$(PY)/python -m tools.load

kills: $(STAMPS)/dev ## kill the server 200 times under its writers, and look for what it acknowledged
	$(PY)/python -m tools.kills

mutants: $(STAMPS)/dev ## what no test would miss: make mutants MODULE=core/physics/jets.py
	@$(PY)/python tools/mutants.py $(MODULE) $(TESTS)

screenshots: $(STAMPS)/dev $(STAMPS)/chromium $(STATIC)/index.html ## the pictures of docs/screenshots, from the demo data
	$(PY)/python -m tests.screenshots

wheel: $(STAMPS)/dev $(STATIC)/index.html ## a wheel with the page in it, to be installed without Node
	$(PY)/pip wheel --quiet --disable-pip-version-check --no-deps --no-build-isolation -w dist .
	@ls dist/*.whl

clean: ## throw away what was installed and built
	rm -rf .venv $(STAMPS) $(STATIC) frontend/node_modules frontend/.svelte-kit
