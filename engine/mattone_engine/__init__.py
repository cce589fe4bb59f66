"""Mattone's computation: hearths, doughs, crusts. No web, no database, no drawing."""

ENGINE_VERSION = "0.9.1"
