"""The account: signed-in devices, what may be taken along, the licences, and leaving for good; all under a strict content policy."""

from __future__ import annotations

from allauth.usersessions.models import UserSession
from django.contrib.auth.models import User
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo.cook import Cook
from demo.loading import demo_data
from e2e.browser import resize
from e2e.story import StoryCase

VIOLATIONS = """
window.violations = [];
document.addEventListener('securitypolicyviolation', (e) => window.violations.push(e.violatedDirective + ' ' + e.blockedURI + ' ' + e.sourceFile));
"""


class AccountStory(StoryCase):
    def test_devices_export_licences_and_deletion(self) -> None:
        self.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": VIOLATIONS})
        page, data = self.signed_in(), demo_data()
        Cook(self.live_server_url, data["email"], data["password"])
        self.driver.get(page.base + "/account")
        page.texted("li", lambda text: "(this device)" in text)
        self.assertEqual(UserSession.objects.count(), 2)
        self.audit("account")
        self.look("account")
        page.texted("button", lambda text: text == "Sign out there").click()
        page.wait(lambda: UserSession.objects.count() == 1)
        page.wait(lambda: not self.driver.find_elements(By.XPATH, "//button[text()='Sign out there']"))
        got = self.driver.execute_async_script(
            "const done = arguments[0]; fetch(document.querySelector('a[download]').href).then(async (r) => done([r.status, (await r.blob()).size]))"
        )
        self.assertEqual(got[0], 200)
        self.assertGreater(got[1], 5000)
        page.texted("a", lambda text: text.startswith("About Mattone")).click()
        page.texted("[data-testid=licences] summary", lambda text: text.startswith(("Django", "django"))).click()
        page.says("THIS SOFTWARE IS PROVIDED")
        self.audit("about")
        self.look("about")
        # What puts its own style sheet into the page may do so, and nothing else has to.
        page.press("?")
        page.one("[role=dialog]")
        page.press(Keys.ESCAPE)
        resize(self.driver, 390, 844)
        self.driver.get(page.base + "/account")
        page.texted("li", lambda text: "(this device)" in text)
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)
        self.look("account-phone")
        page.button("Delete this account").click()
        field = page.one("section[aria-label='Export or delete'] input[type=password]")
        field.send_keys("not-my-password", Keys.ENTER)
        page.says("This is not your password.")
        self.look("account-delete")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(data["password"], Keys.ENTER)
        page.one("input[type=email]")
        self.assertFalse(User.objects.exists())
        self.assertEqual(self.driver.execute_script("return window.violations"), [])

    def test_no_view_needs_what_the_content_policy_forbids(self) -> None:
        self.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": VIOLATIONS})
        page = self.signed_in()
        policy = self.driver.execute_async_script("const done = arguments[0]; fetch('/').then((r) => done(r.headers.get('Content-Security-Policy')))")
        self.assertNotIn("unsafe", policy)
        for view in ("kitchen", "match", "plan", "dough", "timeline", "bake", "logbook"):
            self.driver.get(f"{page.base}/{view}")
            page.one("main h1, main [data-testid], main")
            page.press("?")
            page.one("[role=dialog]")
            self.assertEqual(self.driver.execute_script("return window.violations"), [], view)
