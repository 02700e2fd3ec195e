"""Registers the app with Django."""

from django.apps import AppConfig


class PracticeConfig(AppConfig):
    name = "varistrat.practice"
