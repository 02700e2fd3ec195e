"""Registers the app with Django."""

from django.apps import AppConfig


class FinishingConfig(AppConfig):
    name = "varistrat.finishing"
