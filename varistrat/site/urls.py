"""Two things live here: the API, and one page that loads the application for every other address."""

from django.urls import path, re_path

from varistrat.api import api
from varistrat.site.page import page, service_worker

urlpatterns = [
    path("api/", api.urls),
    path("sw.js", service_worker),
    re_path(r"^(?!api/|static/).*$", page),
]
