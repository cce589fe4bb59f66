"""What a page is told of a bake that is done, that is not, and that an older Mattone kept."""

from __future__ import annotations

import json
from typing import Any

from mattone_engine.bake.plan import PlanResult
from mattone_engine.heat.outcome import NO_PULL

from documents.reading import NUMBER
from documents.tests.test_reading import FROZEN
from plans.models import ANSWER, QUESTION, SENTENCE, Plan
from plans.tests.test_api import Signed

COOL = {"setpoint_c": 110, "level": 3, "preheat_min": 40}
USUAL = {"setpoint_c": 260, "level": 3, "preheat_min": 40}


class Told(Signed):
    def preview(self, controls: dict[str, Any] | None = None, **sentence: Any) -> dict[str, Any]:
        response = self.post("/api/plans/preview", {"sentence": self.sentence(**sentence), "controls": controls})
        self.assertEqual(response.status_code, 200, response.content[:300])
        return dict(response.json()["result"])

    def test_a_bake_that_is_nowhere_done_is_told_in_words_everywhere(self) -> None:
        told = self.preview(COOL)
        self.assertIn("not done within", told["result"]["no_pull"])
        self.assertIn(told["result"]["limited_by"], NO_PULL)
        self.assertEqual(told["word"], "not here")
        pull = next(step for step in told["card"] if step["kind"] == "pull")
        self.assertEqual((pull["text"], pull["hint"]), ("No moment to pull", told["result"]["no_pull"]))
        usual = self.preview(USUAL)
        self.assertEqual(usual["result"]["no_pull"], "")
        self.assertIn("Pull: base", next(step for step in usual["card"] if step["kind"] == "pull")["text"])

    def test_it_is_kept_and_opened_as_it_was(self) -> None:
        saved = self.post("/api/plans", {"name": "Too cool", "sentence": self.sentence(), "controls": COOL})
        self.assertEqual(saved.status_code, 201, saved.content[:300])
        again = self.client.get(f"/api/plans/{saved.json()['id']}").json()
        self.assertIn("not done within", again["result"]["result"]["no_pull"])

    def test_the_three_ends_of_a_window_are_told_apart(self) -> None:
        told = self.preview(USUAL)["result"]
        self.assertTrue(told["look_from_s"] < told["likely_done_s"] < told["not_later_s"])
        self.assertLess(told["likely_done_s"], told["not_later_s"])
        self.assertEqual(told["low_confidence"], "")
        lit = self.preview(USUAL | {"top_element": {"on_s": 0, "off_s": 60}})["result"]
        self.assertIn("low confidence", lit["low_confidence"])
        self.assertGreater(lit["not_later_s"] / lit["look_from_s"], told["not_later_s"] / told["look_from_s"])

    def test_a_sketch_keeps_the_window_it_is_given(self) -> None:
        full = self.preview(USUAL)["result"]
        body = {"sentence": self.sentence(), "controls": USUAL, "spread": {"look_from": 0.5, "window_end": 3.0}}
        sketch = self.post("/api/plans/sketch", body).json()["result"]["result"]
        self.assertAlmostEqual(sketch["look_from_s"], 0.5 * full["likely_done_s"], delta=0.2)
        self.assertAlmostEqual(sketch["not_later_s"], 3.0 * full["likely_done_s"], delta=0.2)
        for wrong in ({"look_from": 1.5, "window_end": 2.0}, {"look_from": 0.5, "window_end": 0.9}, {"look_from": 0.5, "not_later": 2.0}):
            self.assertEqual(self.post("/api/plans/sketch", body | {"spread": wrong}).status_code, 422)

    def test_a_draft_that_calls_the_base_bottom_is_read_and_both_at_once_are_not(self) -> None:
        by_both = [self.preview(USUAL, **{name: "brown"})["wanted"]["base_l"] for name in ("base", "bottom")]
        self.assertEqual(by_both[0], by_both[1])
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(base="brown", bottom="brown"), "controls": USUAL}), 422)

    def test_every_word_the_page_may_show_is_in_the_reference(self) -> None:
        told = self.client.get("/api/reference").json()
        cheese = told["cheese_words"]
        bounds = [word["above_l"] for word in cheese]
        self.assertEqual(bounds, sorted(bounds, reverse=True))
        self.assertEqual(bounds[-1], 0.0)
        result = self.preview(USUAL)["result"]
        self.assertIn(result["at_done"]["cheese_word"], {word["word"] for word in cheese})
        self.assertIn(result["at_done"]["base_word"], {word["word"] for word in told["words"]})
        shown = next(word["word"] for word in cheese if result["at_done"]["cheese_l"] > word["above_l"])
        self.assertEqual(result["at_done"]["cheese_word"], shown)


class Kept(Signed):
    def frozen(self, name: str) -> dict[str, Any]:
        return dict(json.loads((FROZEN / f"{name}.json").read_text(encoding="utf-8")))

    def test_plans_of_every_release_open_with_todays_names(self) -> None:
        row = Plan.objects.filter(owner=self.cook, part=False).first()
        assert row is not None
        for sentence, question, answer in ((1, 1, 1), (1, 2, 1), (2, 3, 2), (2, 3, 3), (3, 4, 3), (3, 4, 4), (3, 4, 5)):
            Plan.objects.filter(pk=row.pk).update(
                sentence=self.frozen(f"plan.sentence.{sentence}"), ask=self.frozen(f"plan.question.{question}"), result=self.frozen(f"plan.answer.{answer}")
            )
            told = self.client.get(f"/api/plans/{row.pk}")
            with self.subTest(answer=answer):
                self.assertEqual(told.status_code, 200, told.content[:300])
                result = told.json()["result"]
                self.assertNotIn('"bottom', json.dumps(result))
                self.assertGreater(len(result["result"]["traces"]["base_l"]), 10)
                self.assertIn("base", told.json()["sentence"])
                # It was told then when the crust burns; what it was told is not made up anew.
                self.assertEqual(result["result"].get("bite", []), [])
                self.assertEqual((result["result"]["traces"]["edge_l"], result["hindrance"]), ([], ""))

    def test_reading_and_writing_again_is_todays_document(self) -> None:
        for kind, name in ((SENTENCE, "plan.sentence"), (QUESTION, "plan.question"), (ANSWER, "plan.answer")):
            newest = kind.write(kind.read(self.frozen(f"{name}.{kind.number - 1}")))
            self.assertEqual(newest[NUMBER], kind.number)
            self.assertEqual(kind.read(newest), kind.read(self.frozen(f"{name}.{kind.number}")))

    def test_a_plan_on_paper_of_before_keeps_the_limit_it_was_made_with(self) -> None:
        question, sentence = self.frozen("plan.question.3"), self.frozen("plan.sentence.2")
        question["parchment"] = sentence["words"]["parchment"] = True
        self.assertEqual(QUESTION.upgraded(question)["parchment_limit_c"], 230.0)
        self.assertEqual(SENTENCE.read(sentence).words.parchment_limit_c, 230.0)

    def test_an_answer_without_its_window_is_damaged_and_said_to_be(self) -> None:
        row = Plan.objects.filter(owner=self.cook, part=False).first()
        assert row is not None
        broken = self.frozen("plan.answer.2")
        del broken["result"]["not_later_s"]
        Plan.objects.filter(pk=row.pk).update(result=broken)
        self.refused(self.client.get(f"/api/plans/{row.pk}"), 410)
        self.assertIsInstance(PlanResult.model_validate(ANSWER.upgraded(self.frozen("plan.answer.2"))), PlanResult)
