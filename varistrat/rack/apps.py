from django.apps import AppConfig


class RackConfig(AppConfig):
    name = "varistrat.rack"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from varistrat.shop.naming import namer

        namer(self.name, "varistrat.rack.selectors.rack_names")
