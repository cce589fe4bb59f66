"""Mattone's computation: hearths, doughs, crusts. No web, no database, no drawing."""

ENGINE_VERSION = "0.13.0"
