from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "varistrat.designs"
