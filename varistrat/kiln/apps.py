from django.apps import AppConfig


class KilnConfig(AppConfig):
    name = "varistrat.kiln"
    default_auto_field = "django.db.models.BigAutoField"
