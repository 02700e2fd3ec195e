from django.apps import AppConfig


class KilnConfig(AppConfig):
    name = "varistrat.kiln"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from varistrat.kiln.services import runs_name
        from varistrat.shop.services.retiring import namer

        namer(self.name, runs_name)
