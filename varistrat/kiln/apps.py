from django.apps import AppConfig


class KilnConfig(AppConfig):
    name = "varistrat.kiln"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from varistrat.shop.naming import namer

        namer(self.name, "varistrat.kiln.services.runs_name")
