web: .venv/bin/uvicorn rheon.server.config.asgi:application --host 127.0.0.1 --port ${RHEON_PORT:-8420} --log-level warning --timeout-graceful-shutdown 1
quick: .venv/bin/python manage.py work quick
second: .venv/bin/python manage.py work quick
convert: .venv/bin/python manage.py work convert
door: .venv/bin/python manage.py ask_door --settings rheon.server.config.door_settings
