from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "varistrat.jobs"

    def ready(self) -> None:
        from varistrat.shop.naming import namer

        namer(self.name, "varistrat.jobs.selectors.jobs_name")
