"""Speed, measured and written down: `./run bench`. Nothing here is part of the tests."""

import os

# parts of it are measured in this very process
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "varistrat.site.settings")
