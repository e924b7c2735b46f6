"""For gunicorn: ``velvet_hand.api.wsgi:app``."""

from velvet_hand.settings import from_environment

from . import create_app, logs

settings = from_environment()
logs.write_to(settings.log)
app = create_app(settings)
