from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "varistrat.jobs"

    def ready(self) -> None:
        from varistrat.jobs.selectors import jobs_name
        from varistrat.shop.services.retiring import namer

        namer(self.name, jobs_name)
