"""For gunicorn: ``velvet_hand.api.wsgi:app``."""

import threading
from importlib import import_module

from velvet_hand.settings import from_environment

from . import create_app, logs

settings = from_environment()
logs.write_to(settings.log)
app = create_app(settings)
# What the first fit would wait for comes in while the first page goes out.
threading.Thread(target=import_module, args=("scipy.optimize",), name="warm", daemon=True).start()
