# make demo: everything from a fresh clone to a running Rheon with its demo discs.
# make test: everything from a fresh clone to a full run of the tests.
# make wheel: what is installed elsewhere, the page inside.
SHELL := /bin/bash
RHEON_PORT ?= 8420
PIP_TOOLS := 7.6.2
# the demo has a home of its own and listens to none of the settings of a real one
DEMO := $(abspath $(or $(RHEON_DEMO),demo-data))
OTHERS := $(foreach v,$(filter RHEON_%,$(.VARIABLES)),-u $(v))
WORKS_PORT = $(shell expr $(RHEON_PORT) + 2)
IN_DEMO := env $(OTHERS) RHEON_CONFIG=$(DEMO)/rheon.toml RHEON_STATE=$(DEMO)/state RHEON_MEDIA=$(DEMO)/media \
	RHEON_OUTPUT=$(DEMO)/output RHEON_PORT=$(RHEON_PORT) RHEON_PAIRING_PORT=$(shell expr $(RHEON_PORT) + 1) \
	RHEON_DRIVES=rheon.demo.drive:$(DEMO)/state/tray.json,$(DEMO)/media RHEON_VOLUMES=rheon.demo.sticks:$(DEMO)/state/sticks
DEMO_SOURCES := MARRAM_NIGHTS LANTERN_STREET_S1.iso HERON_REACH LOCK_KEEPERS LOCK_KEEPERS_D2 THE_LAST_FERRY SALT_ROAD GLASS_HARBOUR
PY := .venv/bin/python
# what is imported is compiled once, not again by each of the many processes that the tests start
unexport PYTHONDONTWRITEBYTECODE
WEB_SOURCES := $(shell find web/src web/index.html web/vite.config.ts web/package.json -type f 2>/dev/null)

.PHONY: demo demo-clean wheel test thorough quick bench truth curve kills fuzz mutants load check web media client hooks locks clean

demo: .venv/.installed web
	@$(PY) -m rheon.demo.build $(DEMO)/media
	@printf '%s\n' "# the demo's own settings: stand-ins for what ends a night and for what knows works" \
		'ends = ["Shut down (stand-in)=true"]' 'look_up = "http://127.0.0.1:$(WORKS_PORT)"' > $(DEMO)/rheon.toml
	@$(IN_DEMO) $(PY) manage.py migrate --verbosity 0
	@$(IN_DEMO) $(PY) manage.py load_household src/rheon/demo/household.json
	@$(IN_DEMO) $(PY) manage.py add_sources $(DEMO_SOURCES:%=$(DEMO)/media/%) "$(DEMO)/media/Tide Watch" $(DEMO)/media/camera/*
	@$(PY) -m rheon.demo.works $(WORKS_PORT) & exec $(IN_DEMO) .venv/bin/rheon serve

# throw the demo away, its discs too
demo-clean:
	@grep -qs "the demo's own" $(DEMO)/rheon.toml || { echo "There is no demo in $(DEMO)."; exit 1; }
	rm -rf $(DEMO)/state $(DEMO)/output $(DEMO)/media $(DEMO)/rheon.toml

# dist/rheon-….whl: pipx install it, or pip in an environment
# packed from a copy: what runs from here meanwhile would take the packed page for its own
wheel: .venv/.installed web
	@rm -rf build dist
	@mkdir build && cp -r pyproject.toml requirements.txt README.md LICENSE src build
	@cp -r web/dist build/src/rheon/server/page
	@$(PY) -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist ./build
	@rm -rf build
	@ls dist/*.whl

test: .venv/.tests-installed web media check
	$(PY) -m pytest $(DEPTH) --numprocesses 2 --dist worksteal --cov --cov-report= tests/core
	$(PY) -m pytest $(DEPTH) --numprocesses 2 --dist worksteal tests/server tests/cli tests/demo
	$(PY) -m pytest $(DEPTH) --numprocesses 2 tests/e2e

# every variant of each kind too: before what many of them are about is changed (an hour or more)
thorough: DEPTH := --thorough
thorough: test

# types, laws and the tests of what computes, for while one writes
quick: .venv/.tests-installed
	.venv/bin/ruff check src tests scripts manage.py benchmarks
	.venv/bin/mypy
	.venv/bin/lint-imports --no-logo
	$(PY) scripts/documents.py --check
	$(PY) scripts/old_names.py
	@$(PY) -m rheon.demo.build demo-data/media
	$(PY) -m pytest --numprocesses 2 --dist worksteal -x tests/core/test_catalogue.py tests/core/wording tests/core/formats \
		tests/core/media tests/core/commands tests/core/devices

# everything that reads the code without running it
check: .venv/.tests-installed web/node_modules/.installed
	.venv/bin/ruff check src tests scripts manage.py benchmarks
	.venv/bin/ruff format --check src tests scripts manage.py benchmarks
	.venv/bin/mypy
	.venv/bin/lint-imports
	$(PY) manage.py makemigrations --check --dry-run
	$(PY) scripts/documents.py --check
	$(PY) scripts/old_names.py
	$(PY) scripts/locks.py --check
	cd web && npm run --silent client:check && npm run --silent format:check && npm run --silent lint \
		&& npm run --silent unused && npm run --silent check && npm run --silent test

bench: .venv/.tests-installed media
	$(PY) benchmarks/run.py

# how often roles, borders, interlacing and languages are right, on material whose truth is known
truth: .venv/.tests-installed media
	$(PY) benchmarks/truth.py

# whether what is measured of a few seconds holds for whole files of twelve titles (half an hour)
curve: .venv/.tests-installed media
	$(PY) benchmarks/curve.py

# a running installation, killed 200 times (KILLS=20 for fewer), and copies onto a stick, cut off 100 times: what was lost
kills: .venv/.tests-installed web media
	$(PY) benchmarks/kills.py
	$(PY) benchmarks/handover.py

# 100,000 changed inputs for every reader (INPUTS=2000 for fewer), and many made-up calls for every address
fuzz: .venv/.tests-installed media
	$(PY) -W ignore benchmarks/fuzz.py
	CALLS=$(or $(CALLS),150) $(PY) -m pytest tests/server/test_schema.py

# which small faults the tests would not notice, in a sample (MUTANTS=20 for fewer, SEED=7 for others, ROOMS=page,server)
mutants: .venv/.tests-installed media
	$(PY) benchmarks/mutants.py

# how quickly a busy installation answers, whether its database is ever locked, and how smoothly its longest lists scroll
load: .venv/.tests-installed web media
	$(PY) benchmarks/load.py
	$(PY) benchmarks/contention.py
	$(PY) benchmarks/frames.py

media: .venv/.installed
	@$(PY) -m rheon.demo.build demo-data/media

web: web/dist/index.html

# before each commit, what reads the code without running it
hooks: .venv/.tests-installed web/node_modules/.installed
	.venv/bin/pre-commit install

# the pinned packages with their hashes, after one of the lists was changed
locks:
	@test -d .venv-locks || python3 -m venv .venv-locks
	.venv-locks/bin/python -m pip install --quiet --disable-pip-version-check pip-tools==$(PIP_TOOLS)
	.venv-locks/bin/python scripts/locks.py

# write the documents that are made from code: OpenAPI, the client's types, the profile schema
client: .venv/.tests-installed web/node_modules/.installed
	$(PY) scripts/documents.py
	cd web && npm run --silent client

web/dist/index.html: web/node_modules/.installed $(WEB_SOURCES)
	cd web && npm run --silent build -- --logLevel warn
	@touch $@

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci --silent --no-progress
	@touch $@

.venv/.installed: requirements.lock pyproject.toml
	@scripts/system-packages.sh demo
	@test -d .venv || python3 -m venv .venv
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

.venv/.tests-installed: requirements-dev.lock .venv/.installed
	@scripts/system-packages.sh test
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

clean:
	rm -rf state demo-data web/dist dist build
