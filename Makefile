# Everything a fresh machine needs is set up here; each step is skipped when it is up to date.
SHELL := /bin/bash
VENV := .venv
PY := $(VENV)/bin/python
PIP := $(PY) -m pip install --quiet --disable-pip-version-check
PORT ?= 8712
DATA ?= $(HOME)/.local/share/zittern
# Tests of what is generated and committed; they take seconds, and a change forgets them easily.
GENERATED := tests.tools.test_words tests.tools.test_inks tests.api.test_guard.OpenApi tests.core.shot.test_upgrades.Schema \
	tests.core.presets.test_files.Files.test_the_published_schema_is_up_to_date
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: install demo dev test chromium test-core lint format types presets sets takes plates cuts shots schema words screenshots figures bench hostile hostile-formulas hostile-cost hostile-files fuzz-cache kill soak mutate clean lock

install: $(VENV)/.runtime zittern/web_dist/index.html

demo: install
	@$(VENV)/bin/zittern demo --port $(PORT) --data $(DATA) $(if $(NO_BROWSER),--no-browser)

dev: install web/node_modules/.installed
	@echo "page with live reload: http://localhost:5173/ (server on port $(PORT))"
	@trap 'kill 0' EXIT; $(VENV)/bin/zittern demo --port 8712 --data $(DATA) --no-browser & npm --prefix web run dev

$(VENV)/.made:
	python3 -m venv $(VENV)
	@touch $@

$(VENV)/.runtime: requirements.lock pyproject.toml $(VENV)/.made
	$(PIP) -r requirements.lock
	$(PIP) --no-deps -e .
	@touch $@

$(VENV)/.dev: requirements-dev.lock $(VENV)/.runtime
	$(PIP) -r requirements-dev.lock
	@touch $@

web/node_modules/.installed: web/package-lock.json web/package.json
	npm --prefix web ci --no-audit --no-fund --loglevel=error
	@touch $@

zittern/web_dist/index.html: web/node_modules/.installed $(WEB_SOURCES)
	npm --prefix web run build --silent -- --logLevel warn
	@touch $@

# Debian's Chromium without windows, which needs a fifth less for a test than the whole one; that one where it is missing.
chromium:
	@command -v chromium-headless-shell >/dev/null || test -n "$$ZITTERN_CHROMIUM" || (apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium-headless-shell >/dev/null) || command -v chromium >/dev/null || apt-get install -y -qq --no-install-recommends chromium >/dev/null

test: install $(VENV)/.dev web/node_modules/.installed chromium
	@$(PY) -m tests.run

test-core: install $(VENV)/.dev
	@$(PY) -m tests.run --core

lint: $(VENV)/.dev web/node_modules/.installed
	$(VENV)/bin/ruff check zittern tests tools
	$(VENV)/bin/ruff format --check zittern tests tools
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports --no-cache
	npm --prefix web run lint --silent
	npm --prefix web run check --silent
	@$(PY) -m unittest -q tests.test_structure $(GENERATED)
	@$(PY) tools/plain.py --corpus ui --max 1
	@$(PY) tools/plain.py --corpus docs --max 1
	@$(PY) tools/plain.py --corpus prose --max 1.5
	@$(PY) tools/plain.py --corpus names --max 5

format: $(VENV)/.dev web/node_modules/.installed
	$(VENV)/bin/ruff check --fix zittern tests tools
	$(VENV)/bin/ruff format zittern tests tools
	npm --prefix web run format --silent

# What is generated and committed: `lint` says when one of these is out of date.
types: $(VENV)/.runtime web/node_modules/.installed
	$(PY) -m zittern.api.export_openapi > web/openapi.json
	npm --prefix web run types --silent
	$(PY) -m tools.inks

schema: $(VENV)/.runtime
	$(VENV)/bin/zittern schema > docs/shot.schema.json
	$(VENV)/bin/zittern schema --of preset > docs/preset.schema.json

words: $(VENV)/.dev
	$(PY) -m tools.words

presets: $(VENV)/.runtime
	$(PY) -m tools.presets.shipped

takes: $(VENV)/.runtime
	$(PY) -m tools.demo.takes

plates: $(VENV)/.runtime
	$(PY) -m tools.demo.plates

shots: $(VENV)/.runtime
	$(PY) -m tools.demo.shots

cuts: $(VENV)/.runtime
	$(PY) -m tools.demo.cuts

sets: $(VENV)/.runtime
	$(PY) -m tools.demo.sets

screenshots: install $(VENV)/.dev chromium
	$(PY) -m tools.screenshots

figures: $(VENV)/.dev
	$(PY) -m tools.figures

bench: install
	$(VENV)/bin/zittern bench

# Proofs of what docs/reliability.md promises, at length; short runs of each are among the tests.
hostile: install $(VENV)/.dev
	$(PY) -m tools.hostile --count $(or $(COUNT),20000) --seed $(or $(SEED),1)

hostile-formulas: install $(VENV)/.dev
	$(PY) -m tools.hostile_formulas --count $(or $(COUNT),100000) --seed $(or $(SEED),1)

hostile-files: install $(VENV)/.dev
	$(PY) -m tools.hostile_files --count $(or $(COUNT),5000) --seed $(or $(SEED),1)

hostile-cost: install $(VENV)/.dev
	$(PY) -m tools.hostile_cost --climbs $(or $(CLIMBS),40) --steps $(or $(STEPS),60) --seed $(or $(SEED),1)

fuzz-cache: install $(VENV)/.dev
	$(PY) -m tools.fuzz_cache --shots $(or $(SHOTS),40) --edits $(or $(EDITS),40) --seed $(or $(SEED),1)

kill: install $(VENV)/.dev
	$(PY) -m tools.kill --kills $(or $(KILLS),60) --seed $(or $(SEED),1)

soak: install $(VENV)/.dev
	$(PY) -m tools.soak --seconds $(or $(SECONDS_LONG),600)

mutate: install $(VENV)/.dev
	$(PY) -m tools.mutate --count $(or $(N),60) --seed $(or $(SEED),1)

lock: $(VENV)/.dev
	$(VENV)/bin/pip-compile -q --upgrade --strip-extras --no-header --no-annotate --no-emit-index-url --no-emit-find-links -o requirements.lock pyproject.toml
	$(VENV)/bin/pip-compile -q --upgrade --strip-extras --allow-unsafe --extra dev -c requirements.lock --no-header --no-annotate --no-emit-index-url --no-emit-find-links -o requirements-dev.lock pyproject.toml

clean:
	rm -rf $(VENV) web/node_modules zittern/web_dist
