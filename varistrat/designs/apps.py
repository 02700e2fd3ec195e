from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "varistrat.designs"

    def ready(self) -> None:
        from varistrat.accounts.services.retiring import namer
        from varistrat.designs.services.naming import designs_name

        namer(self.name, designs_name)
