from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "varistrat.designs"

    def ready(self) -> None:
        from varistrat.shop.naming import namer

        namer(self.name, "varistrat.designs.services.naming.designs_name")
