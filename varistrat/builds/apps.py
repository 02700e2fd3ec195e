from django.apps import AppConfig


class BuildsConfig(AppConfig):
    name = "varistrat.builds"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from varistrat.shop.naming import namer

        namer(self.name, "varistrat.builds.naming.builds_name")
