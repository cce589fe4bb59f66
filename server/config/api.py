"""The API: one router an app, one shape of error."""

from errors import handle_all
from logbook.api import router as logbook_router
from logbook.photo_api import router as logbook_photos_router

from accounts.api import CookAuth
from accounts.api import router as account_router
from bakes.api import router as bakes_router
from config.documented import DocumentedAPI
from config.reference import router as reference_router
from dough.api import router as dough_router
from events.api import router as events_router
from exchange.api import router as exchange_router
from kitchen.api import router as kitchen_router
from live.api import ingest_router
from live.api import router as live_router
from live.calibrating import router as calibrating_router
from match.api import router as match_router
from photos.api import router as photos_router
from plans.api import router as plans_router
from styling.api import router as styling_router
from timeline.api import router as timeline_router

api = DocumentedAPI(title="Mattone", version="1", auth=CookAuth(), docs_url=None)
api.add_router("/account", account_router)
api.add_router("/reference", reference_router)
api.add_router("/kitchen", kitchen_router)
api.add_router("/kitchen", calibrating_router)
api.add_router("/plans", plans_router)
api.add_router("/match", match_router)
api.add_router("/styles", styling_router)
api.add_router("/dough", dough_router)
api.add_router("/timeline", timeline_router)
api.add_router("/live", live_router)
api.add_router("/bakes", bakes_router)
api.add_router("/logbook", logbook_router)
api.add_router("/logbook", logbook_photos_router)
api.add_router("/photos", photos_router)
api.add_router("/ingest", ingest_router)
api.add_router("/exchange", exchange_router)
api.add_router("/events", events_router)

handle_all(api)
