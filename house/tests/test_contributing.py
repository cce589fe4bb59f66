"""CONTRIBUTING says how it is built here; each of its claims is held to."""

from __future__ import annotations

import ast
import json
import re
import subprocess
import tomllib
from collections.abc import Iterator
from pathlib import Path
from unittest import TestCase

from house.commands import COMMANDS
from house.places import ROOT

MOST_LINES, MOST_FUNCTION, MOST_COMPONENT = 400, 80, 150
ENGINE, SERVER = ROOT / "engine" / "mattone_engine", ROOT / "server"
# Who may import whom inside the engine: what stands lower is imported by what stands higher.
GROUND_UP = (("things",), ("styles",), ("heat", "dough"), ("knowledge",), ("bake", "days", "photo"), ("live", "supper"), ("learn", "formats"), ("evidence",))
# Who computes in the server: the one door, and what is told to be quick.
BAKES = re.compile(
    r"mattone_engine\.(bake\.(simulate|search|plan|row|match|oven_wish|topping_effect)|heat|days\.(timeline|placing|clash)|learn\.calibrate|live\.(answer|ensemble|following|heating|weighing))$"
)
QUICK = {
    "mattone_engine.bake.plan": {"PlanResult", "SketchInput"}, "mattone_engine.bake.row": {"RowInput", "RowResult", "may_be_together"},
    "mattone_engine.bake.match": {"MatchInput", "MatchResult", "MatchRig", "pieces_for", "piece_cm2", "portion"},
    "mattone_engine.bake.oven_wish": {"AcceptInput", "OvenWish", "WishInput", "accepted"},
    "mattone_engine.bake.topping_effect": {"Effect", "EffectInput"},
    "mattone_engine.live.answer": {"LiveResult"},
    "mattone_engine.learn.calibrate": {"CalibrateInput", "CalibrateResult"},
}  # fmt: skip


def imports(file: Path) -> Iterator[tuple[str, str]]:
    """Module and name of everything a file imports."""
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield from ((node.module, alias.name) for alias in node.names)
        elif isinstance(node, ast.Import):
            yield from ((alias.name, "") for alias in node.names)


def sources(folder: Path) -> list[Path]:
    return [path for path in folder.rglob("*.py") if "tests" not in path.parts and "migrations" not in path.parts]


def tracked() -> list[str]:
    return subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True).stdout.split("\n")


class Rooms(TestCase):
    def test_the_engine_knows_neither_web_nor_database(self) -> None:
        for file in sources(ENGINE):
            for module, _ in imports(file):
                self.assertNotIn(module.split(".")[0], ("django", "ninja", "psycopg", "house", "config", "work"), f"{file}: {module}")

    def test_inside_the_engine_imports_run_from_the_ground_up(self) -> None:
        height = {room: i for i, rooms in enumerate(GROUND_UP) for room in rooms}
        wrong = []
        for file in sources(ENGINE):
            room = file.relative_to(ENGINE).parts[0]
            for module, _ in imports(file):
                parts = module.split(".")
                if parts[0] == "mattone_engine" and len(parts) > 1 and parts[1] in height and room in height and height[parts[1]] > height[room]:
                    wrong.append(f"{file.relative_to(ENGINE)} imports {module}")
        self.assertEqual(wrong, [])

    def test_no_app_of_the_server_bakes_but_through_the_one_door(self) -> None:
        wrong = [
            f"{file.relative_to(SERVER)}: {module}.{name}"
            for file in sources(SERVER) if file.relative_to(SERVER).parts[0] not in ("work", "demo")
            for module, name in imports(file)
            if BAKES.match(module) and name not in QUICK.get(module, ()) and not module.startswith("mattone_engine.heat")
        ]  # fmt: skip
        # Whether this process's kernels bake at all is asked in it.
        self.assertEqual(wrong, ["config/health.py: mattone_engine.bake.simulate.simulate"])

    def test_no_two_apps_of_the_server_import_each_other_both_ways(self) -> None:
        apps = {path.name for path in SERVER.iterdir() if path.is_dir()}
        seen = {(file.relative_to(SERVER).parts[0], module.split(".")[0]) for file in sources(SERVER) for module, _ in imports(file)}
        self.assertEqual({(a, b) for a, b in seen if a < b and b in apps and (b, a) in seen}, set())

    def test_everything_public_of_the_engine_is_documented(self) -> None:
        bare = []
        for file in sources(ENGINE):
            for node in ast.parse(file.read_text(encoding="utf-8")).body:
                if not isinstance(node, ast.FunctionDef | ast.ClassDef) or node.name.startswith("_"):
                    continue
                # What a protocol asks for is said where it is met; a validator's name is its sentence.
                asked_for = isinstance(node, ast.ClassDef) and any(ast.unparse(base) == "Protocol" for base in node.bases)
                inside = node.body if isinstance(node, ast.ClassDef) and not asked_for else []
                for one in [node, *(m for m in inside if isinstance(m, ast.FunctionDef) and not m.name.startswith("_"))]:
                    validates = any("validator" in ast.unparse(way) for way in one.decorator_list)
                    bare += [] if ast.get_docstring(one) or validates else [f"{file.relative_to(ENGINE)}: {one.name}"]
        self.assertEqual(bare, [])

    def test_no_view_of_the_page_imports_another(self) -> None:
        views = ROOT / "web" / "src" / "views"
        names = {path.name for path in views.iterdir()}
        crossing = [
            f"{file.relative_to(views)}: {found}"
            for file in views.rglob("*.ts*")
            for found in re.findall(r'from "(?:\.\./)+([\w-]+)/', file.read_text(encoding="utf-8"))
            if found in names
        ]
        self.assertEqual(crossing, [])
        shared = [path for room in ("ui", "app", "api") for path in (ROOT / "web" / "src" / room).rglob("*.ts*") if path.name != "App.tsx"]
        self.assertEqual([path.name for path in shared if re.search(r'from ".*views/', path.read_text(encoding="utf-8"))], [])

    def test_files_functions_and_components_are_small(self) -> None:
        """The kernels are spared: compiled code has to stand in one file and be one loop."""
        large = []
        for file in [*sources(ROOT / "engine"), *sources(SERVER), *sources(ROOT / "house"), *sources(ROOT / "e2e"), *sources(ROOT / "bench")]:
            text = file.read_text(encoding="utf-8")
            if file.name == "column.py":
                continue
            large += [f"{file.name}: {text.count(chr(10))} lines"] if text.count("\n") >= MOST_LINES else []
            for node in ast.walk(ast.parse(text)):
                if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef) and node.end_lineno is not None:
                    lines = node.end_lineno - node.lineno + 1
                    large += [f"{file.name}: {node.name}, {lines} lines"] if lines > MOST_FUNCTION else []
        for file in (ROOT / "web" / "src").rglob("*.ts*"):
            lines = file.read_text(encoding="utf-8").split("\n")
            if file.name == "schema.d.ts":
                continue
            large += [f"{file.name}: {len(lines)} lines"] if len(lines) > MOST_LINES else []
            began, name = 0, ""
            for i, line in enumerate(lines):
                if head := re.match(r"(?:export )?(?:async )?function (\w+)", line):
                    began, name = i, head.group(1)
                elif line == "}" and name:
                    most = MOST_COMPONENT if name[0].isupper() else MOST_FUNCTION
                    large += [f"{file.name}: {name}, {i - began + 1} lines"] if i - began + 1 > most else []
                    name = ""
        self.assertEqual(large, [])

    def test_kernels_are_all_in_one_file(self) -> None:
        compiled = [file.name for file in sources(ENGINE) if re.search(r"^@njit", file.read_text(encoding="utf-8"), re.M)]
        self.assertEqual(compiled, ["column.py"])

    def test_house_runs_before_anything_is_installed(self) -> None:
        import sys

        for file in (ROOT / "house").glob("*.py"):
            for module, _ in imports(file):
                top = module.split(".")[0]
                if file.name != "schema.py":
                    self.assertTrue(top == "house" or top in sys.stdlib_module_names, f"{file.name}: {module}")


class Data(TestCase):
    def test_a_style_is_one_file_and_its_key(self) -> None:
        from mattone_engine.styles import styles

        files = {path.stem for path in (ENGINE / "styles").glob("*.toml")}
        self.assertEqual(files, set(styles()))

    def test_data_is_data(self) -> None:
        for file in ENGINE.rglob("*.toml"):
            with self.subTest(file.name):
                self.assertTrue(tomllib.loads(file.read_text(encoding="utf-8")))

    def test_locks_are_whole_and_name_no_index(self) -> None:
        for name in ("app", "dev", "tools"):
            text = (ROOT / "requirements" / f"{name}.txt").read_text(encoding="utf-8")
            self.assertNotRegex(text, r"https?://|--(extra-)?index|--find-links")
            pins = re.findall(r"^([a-zA-Z0-9._-]+)(?:\[.*\])?==", text, re.M)
            self.assertEqual(len(pins), len(re.findall(r"^[a-zA-Z0-9._-]+(?:\[.*\])?==[^\n]*\\\n\s+--hash", text, re.M)))
        app = dict(re.findall(r"^([a-zA-Z0-9._-]+)==(\S+)", (ROOT / "requirements" / "app.txt").read_text(encoding="utf-8"), re.M))
        dev = dict(re.findall(r"^([a-zA-Z0-9._-]+)==(\S+)", (ROOT / "requirements" / "dev.txt").read_text(encoding="utf-8"), re.M))
        self.assertEqual({key: dev.get(key) for key in app}, app, "what is tested is what is served")
        self.assertFalse({"selenium", "locust", "schemathesis", "hypothesis", "ruff", "mypy"} & set(app))

    def test_web_packages_are_pinned_exactly(self) -> None:
        told = json.loads((ROOT / "web" / "package.json").read_text(encoding="utf-8"))
        for name, version in {**told["dependencies"], **told["devDependencies"]}.items():
            self.assertRegex(version, r"^\d+\.\d+\.\d+$", name)


class Words(TestCase):
    def test_the_readme_names_every_command_and_only_those(self) -> None:
        text = (ROOT / "README.md").read_text(encoding="utf-8")
        named = set(re.findall(r"`\./mattone (\w+)", text))
        self.assertEqual(named, set(COMMANDS))

    def test_pictures_are_linked_and_few(self) -> None:
        text = (ROOT / "README.md").read_text(encoding="utf-8")
        linked = set(re.findall(r"docs/screenshots/([\w-]+\.png)", text))
        there = {Path(name).name for name in tracked() if name.startswith("docs/screenshots/")}
        self.assertEqual(linked, there)
        self.assertLess(len(there), 20)

    def test_links_of_the_documents_lead_somewhere(self) -> None:
        for file in (ROOT / "README.md", ROOT / "CONTRIBUTING.md", *(ROOT / "docs").rglob("*.md")):
            for link in re.findall(r"\]\(([^)#:]+)\)", file.read_text(encoding="utf-8")):
                self.assertTrue((file.parent / link).exists(), f"{file.name}: {link}")

    def test_ci_checks_and_tests(self) -> None:
        script = (ROOT / ".ci" / "run").read_text(encoding="utf-8")
        self.assertIn("./mattone check", script)
        self.assertIn("./mattone test", script)

    def test_the_environment_is_documented(self) -> None:
        told = (ROOT / "docs" / "operating.md").read_text(encoding="utf-8")
        files = [SERVER / "config" / name for name in ("settings.py", "from_environment.py")]
        read = set(re.findall(r"MATTONE_[A-Z_]+", "".join(file.read_text(encoding="utf-8") for file in files)))
        inner = {"MATTONE_SERVING", "MATTONE_DEBUG", "MATTONE_SECRET_KEY", "MATTONE_FINDERS", "MATTONE_VITE_PORT", "MATTONE_ENGINE_PROCESSES"}
        short = {f"MATTONE_DB_{part}" for part in ("PORT", "NAME", "USER", "PASSWORD")}
        self.assertEqual({name for name in read - inner - short if name not in told}, set())
