"""For gunicorn: ``velvet_hand.api.wsgi:app``."""

from velvet_hand.settings import from_environment

from . import create_app

app = create_app(from_environment())
