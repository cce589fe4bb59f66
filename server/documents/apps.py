from django.apps import AppConfig
from django.db.backends.signals import connection_created


class DocumentsConfig(AppConfig):
    name = "documents"

    def ready(self) -> None:
        from documents.moments import read_leniently

        connection_created.connect(read_leniently, dispatch_uid="moments are read leniently")
