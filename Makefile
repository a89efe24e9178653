# make demo: everything from a fresh clone to a running Rheon with its demo discs.
# make test: everything from a fresh clone to a full run of the tests.
# make wheel: what is installed elsewhere, the page inside.
SHELL := /bin/bash
RHEON_PORT ?= 8420
# the demo has a home of its own and listens to none of the settings of a real one
DEMO := $(abspath $(or $(RHEON_DEMO),demo-data))
OTHERS := $(foreach v,$(filter RHEON_%,$(.VARIABLES)),-u $(v))
IN_DEMO := env $(OTHERS) RHEON_CONFIG=$(DEMO)/rheon.toml RHEON_STATE=$(DEMO)/state RHEON_MEDIA=$(DEMO)/media \
	RHEON_OUTPUT=$(DEMO)/output RHEON_PORT=$(RHEON_PORT) RHEON_DOOR_PORT=$(shell expr $(RHEON_PORT) + 1) \
	RHEON_DRIVES=rheon.demo.drive:$(DEMO)/state/tray.json,$(DEMO)/media
DEMO_SOURCES := MARRAM_NIGHTS LANTERN_STREET_S1.iso HERON_REACH LOCK_KEEPERS LOCK_KEEPERS_D2 THE_LAST_FERRY SALT_ROAD GLASS_HARBOUR
PY := .venv/bin/python
WEB_SOURCES := $(shell find web/src web/index.html web/vite.config.ts web/package.json -type f 2>/dev/null)

.PHONY: demo demo-clean wheel test bench truth kills fuzz load check web media client clean

demo: .venv/.installed web
	@$(PY) -m rheon.demo.build $(DEMO)/media
	@echo "# the demo's own settings: none" > $(DEMO)/rheon.toml
	@$(IN_DEMO) $(PY) manage.py migrate --verbosity 0
	@$(IN_DEMO) $(PY) manage.py load_household src/rheon/demo/household.json
	@$(IN_DEMO) $(PY) manage.py add_sources $(DEMO_SOURCES:%=$(DEMO)/media/%) "$(DEMO)/media/Tide Watch" $(DEMO)/media/camera/*
	@exec $(IN_DEMO) .venv/bin/rheon serve

# throw the demo away, its discs too
demo-clean:
	@grep -qs "the demo's own" $(DEMO)/rheon.toml || { echo "There is no demo in $(DEMO)."; exit 1; }
	rm -rf $(DEMO)/state $(DEMO)/output $(DEMO)/media $(DEMO)/rheon.toml

# dist/rheon-….whl: pipx install it, or pip in an environment
wheel: .venv/.installed web
	@rm -rf src/rheon/server/page build dist
	@cp -r web/dist src/rheon/server/page
	@$(PY) -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist . || { rm -rf src/rheon/server/page; exit 1; }
	@rm -rf src/rheon/server/page build
	@ls dist/*.whl

test: .venv/.tests-installed web media check
	$(PY) -m pytest --numprocesses 2 --dist worksteal tests/core tests/server tests/cli tests/demo
	$(PY) -m pytest tests/e2e

# everything that reads the code without running it
check: .venv/.tests-installed web/node_modules/.installed
	.venv/bin/ruff check src tests manage.py bench
	.venv/bin/ruff format --check src tests manage.py bench
	.venv/bin/mypy
	.venv/bin/lint-imports
	$(PY) manage.py makemigrations --check --dry-run
	$(PY) scripts/documents.py --check
	cd web && npm run --silent client:check && npm run --silent lint && npm run --silent check && npm run --silent test

bench: .venv/.tests-installed media
	$(PY) bench/run.py

# how often roles, borders, cadence and languages are right, on material whose truth is known
truth: .venv/.tests-installed media
	$(PY) bench/truth.py

# a running installation, killed 200 times (KILLS=20 for fewer): what was lost, stuck or left
kills: .venv/.tests-installed web media
	$(PY) bench/kills.py

# 100,000 changed inputs for every reader (INPUTS=2000 for fewer), and many made-up calls for every address
fuzz: .venv/.tests-installed media
	$(PY) -W ignore bench/fuzz.py
	CALLS=$(or $(CALLS),150) $(PY) -m pytest tests/server/test_schema.py

# how quickly a busy installation answers
load: .venv/.tests-installed web media
	$(PY) bench/load.py

media: .venv/.installed
	@$(PY) -m rheon.demo.build demo-data/media

web: web/dist/index.html

# write the documents that are made from code: OpenAPI, the client's types, the profile schema
client: .venv/.installed web/node_modules/.installed
	$(PY) scripts/documents.py
	cd web && npm run --silent client

web/dist/index.html: web/node_modules/.installed $(WEB_SOURCES)
	cd web && npm run --silent build -- --logLevel warn
	@touch $@

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci --silent --no-progress
	@touch $@

.venv/.installed: requirements.txt pyproject.toml
	@scripts/system-packages.sh demo
	@test -d .venv || python3 -m venv .venv
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements.txt
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

.venv/.tests-installed: requirements-dev.txt .venv/.installed
	@scripts/system-packages.sh test
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements-dev.txt
	@touch $@

clean:
	rm -rf state demo-data web/dist dist build
