"""The WSGI application that gunicorn serves."""

import os

from django.core.wsgi import get_wsgi_application
from strom_engine.sizing.solar import horizontal_irradiation_kwh

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_wsgi_application()

# Loading the sun's tables takes a second or two: before the first visitor, not for them.
horizontal_irradiation_kwh(45.0, 7, 0.5)
