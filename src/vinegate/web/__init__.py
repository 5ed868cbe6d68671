"""The web application: an app factory and one blueprint for each screen."""

from vinegate.web.app import Config, create_app, create_app_from_environment

__all__ = ["Config", "create_app", "create_app_from_environment"]
