from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "varistrat.designs"

    def ready(self) -> None:
        from varistrat.designs.services.naming import designs_name
        from varistrat.shop.services.retiring import namer

        namer(self.name, designs_name)
