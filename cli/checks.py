"""check, test, generate, bench: what must hold before anything is taken."""

from __future__ import annotations

import filecmp
import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from pathlib import Path

from . import install, serving
from .database import Database
from .state import COMPILED, ROOT, STATE, WEB, Stop, run, secret

PARTS = ("check", "core", "web", "server", "e2e")


def _tests_env() -> tuple[Path, dict[str, str]]:
    install.packages(for_tests=True)
    exe = install.python(tests=True)
    env = {
        **install.node_env(exe),
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}",
        **COMPILED,
        "DJANGO_SETTINGS_MODULE": "hurbin_server.settings",
        "HURBIN_SECRET_KEY": secret("django"),
    }
    env.pop("CI", None)
    return exe, env


def _shown(argv: list[str], env: dict[str, str], what: str, cwd: Path = ROOT) -> None:
    print(f"\n== {what}", flush=True)
    if subprocess.run(argv, cwd=cwd, env=env, stdin=subprocess.DEVNULL, check=False).returncode:
        raise Stop(f"{what} failed.")


def _generate(exe: Path, env: dict[str, str], openapi: Path, types: Path) -> None:
    openapi.write_text(
        run([str(exe), "-m", "django", "openapi"], what="Writing the API's description", env=env)
    )
    run(
        ["npx", "--no-install", "openapi-typescript", str(openapi), "-o", str(types)],
        what="Writing the TypeScript types",
        cwd=WEB,
        env=env,
    )


OPENAPI, TYPES = ROOT / "docs" / "openapi.json", WEB / "src" / "base" / "generated" / "schema.ts"
SENTENCES = ROOT / "docs" / "sentences.md"


def _sentences(exe: Path, env: dict[str, str], to: Path) -> None:
    core = run([str(exe), "-m", "cli.sentences"], what="Writing every sentence down", env=env)
    words = ["node", "tools/words.js"]
    screens = run(words, what="Writing the words of the screens down", cwd=WEB, env=env)
    to.write_text(core + screens)


def generate() -> None:
    exe, env = _tests_env()
    install.web_packages(exe)
    _generate(exe, env, OPENAPI, TYPES)
    _sentences(exe, env, SENTENCES)
    print("Regenerated " + ", ".join(str(x.relative_to(ROOT)) for x in (OPENAPI, TYPES, SENTENCES)) + ".")


def _stale(exe: Path, env: dict[str, str]) -> None:
    print("\n== generated files", flush=True)
    with tempfile.TemporaryDirectory() as place:
        openapi, types, said = (
            Path(place) / "openapi.json",
            Path(place) / "schema.ts",
            Path(place) / "said.md",
        )
        _generate(exe, env, openapi, types)
        _sentences(exe, env, said)
        for fresh, held in ((openapi, OPENAPI), (types, TYPES), (said, SENTENCES)):
            if not filecmp.cmp(fresh, held, shallow=False):
                raise Stop(f"{held.relative_to(ROOT)} is stale.", "Run ./hurbin generate.")
    run(
        [str(exe), "-m", "django", "makemigrations", "--check", "--dry-run"],
        what="A migration is missing: makemigrations",
        env=env,
    )


def check(sheets: bool = True) -> None:
    """Everything that holds without a test. sheets: the table of sheets too; where the core's tests are run
    anyway it is one of them.
    """
    exe, env = _tests_env()
    install.web_packages(exe)
    _shown([str(exe), "-m", "ruff", "check", "."], env, "ruff")
    _shown([str(exe), "-m", "ruff", "format", "--check", "--quiet", "."], env, "ruff format")
    _shown([str(exe), "-m", "mypy"], env, "mypy, strict on the core")
    _shown([str(exe.parent / "lint-imports"), "--no-cache"], env, "import rules")
    if sheets:
        table = ["-m", "pytest", "-q", "-p", "no:django", "core/tests/test_sheet_table.py"]
        _shown([str(exe), *table], env, "the table of sheets")
    _stale(exe, env)
    _shown(["npx", "--no-install", "tsc", "--noEmit"], env, "tsc", WEB)
    _shown(["npx", "--no-install", "eslint", "src"], env, "eslint", WEB)
    form = ["--check", "--cache", "--log-level", "warn", "."]
    _shown(["npx", "--no-install", "prettier", *form], env, "prettier", WEB)
    _leaks()


def _leaks() -> None:
    """Nothing of a registry or of this machine may stand in a file."""
    names = subprocess.run(
        ["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=False
    ).stdout.split()
    for name in names:
        if name.endswith((".lock", "package-lock.json", ".npmrc", ".toml")):
            text = (ROOT / name).read_text(errors="replace")
            if '"resolved"' in text or "--index-url" in text:
                raise Stop(f"{name} contains the address of a package registry.")


def _core() -> None:
    exe, env = _tests_env()
    _shown([str(exe), "-m", "pytest", "-q", "-p", "no:django", "core/tests"], env, "core tests")
    _shown([str(exe), "-m", "pytest", "-q", "cli/tests"], env, "command line tests")
    _other_python()


def _other_python() -> None:
    """The core on Python 3.14, as a browser will run it: the same sheets, the same answers."""
    exe, env = _tests_env()
    install.web_packages(exe)
    words = [
        shutil.which("node", path=env["PATH"]) or "node",
        str(ROOT / "cli" / "wasm" / "core314.mjs"),
        str(WEB / "node_modules" / "pyodide"),
        str(install.wheels_314()),
        str(ROOT / "core"),
    ]
    _shown([str(exe), "core/tests/other_python.py", *words], env, "the core on Python 3.14")


def _web() -> None:
    exe, env = _tests_env()
    install.web_packages(exe)
    _shown(["npx", "--no-install", "vitest", "run"], env, "web unit tests", WEB)
    install.build_web(exe)


def _with_database(env: dict[str, str]) -> tuple[Database, dict[str, str]]:
    db = Database("test")
    db.start(fast=True)
    more = {
        "HURBIN_DB_SOCKET": str(db.socket),
        "HURBIN_DB_PASSWORD": secret("db-test"),
        "HURBIN_DB_NAME": "hurbin",
    }
    return db, {**env, **more}


def _server() -> None:
    exe, env = _tests_env()
    db, env = _with_database(env)
    try:
        _shown([str(exe), "-m", "pytest", "-q", "server/tests"], env, "server tests")
    finally:
        db.stop()


def _e2e_made() -> None:
    """What the end-to-end tests begin with: the built front end, and the demo, dumped."""
    exe, env = _tests_env()
    install.build_web(exe)
    run([str(exe), "e2e/made.py"], what="Making the tests' demo", env=env, quiet=True)


def _e2e() -> None:
    exe, env = _tests_env()
    install.build_web(exe)
    words = os.environ.get("HURBIN_E2E", "e2e").split()
    # Each browser has a stack of its own and takes whole files, whose tests go on from one another.
    # Their servers' directories are made here, one after the other: two at once get in each other's way.
    for n in range(BROWSERS):
        db = Database(f"e2e-gw{n}")
        db.start(fast=True)
        db.stop()
    apart = ["-n", str(BROWSERS), "--dist", "loadfile", "--no-loadscope-reorder"]
    _shown([str(exe), "-m", "pytest", "-q", *apart, *words], env, "end to end")


BROWSERS = 2
BESIDE = ("web", "server")  # parts that share nothing with check and core: run beside them


def test(only: list[str] | None) -> None:
    begun = time.monotonic()
    steps: dict[str, Callable[[], None]] = {
        "check": partial(check, sheets=only is not None and "core" not in only),
        "core": _core,
        "web": _web,
        "server": _server,
        "e2e": _e2e,
    }
    failed = []
    beside = None if only else _beside()
    for name in only or [n for n in PARTS if n not in BESIDE]:
        if name == "e2e" and beside is not None:
            with suppress(Stop):  # the tests make it themselves, and say what is wrong
                _e2e_made()
        try:
            steps[name]()
        except Stop as error:
            print(f"\nhurbin: {error.what} {error.do}", file=sys.stderr, flush=True)
            failed.append(name)
    if beside is not None:
        failed += beside()
    seconds = time.monotonic() - begun
    if failed:
        raise Stop(
            f"Failed: {', '.join(failed)} (after {seconds:.0f} s).",
            "Run one part: ./hurbin test --only NAME",
        )
    print(f"\nAll parts passed in {seconds:.0f} s.")


def _beside() -> Callable[[], list[str]]:
    """Start web and server tests in a process of their own, once everything is installed; waiting for them
    tells which failed.
    """
    exe, _ = _tests_env()
    install.web_packages(exe)
    said = tempfile.TemporaryFile("w+")  # noqa: SIM115
    words = [w for n in BESIDE for w in ("--only", n)]
    process = subprocess.Popen(
        [str(ROOT / "hurbin"), "test", *words],
        cwd=ROOT,
        stdin=subprocess.DEVNULL,
        stdout=said,
        stderr=subprocess.STDOUT,
    )

    def wait() -> list[str]:
        code = process.wait()
        said.seek(0)
        print(said.read(), end="", flush=True)
        said.close()
        return [" or ".join(BESIDE)] if code else []

    return wait


def bench(only: str = "") -> None:
    exe, env = _tests_env()
    install.build_web(exe)
    db, env = _with_database(env)
    db.drop("hurbin_bench")
    db.create("hurbin_bench")
    env = {**env, "HURBIN_DB_NAME": "hurbin_bench", "HURBIN_TEST_STATE": str(STATE)}
    env["HURBIN_LIMIT_TIMES"] = "1000"  # it asks more often than people do
    try:
        serving.manage(exe, env, "migrate", "-v0")
        _shown([str(exe), "-m", "cli.bench", *([only] if only else [])], env, "measuring")
    finally:
        db.drop("hurbin_bench")
        db.stop()


def fuzz(examples: int) -> None:
    exe, env = _tests_env()
    install.build_web(exe)
    db, env = _with_database(env)
    try:
        _shown([str(exe), "-m", "cli.fuzz", "--examples", str(examples)], env, "fuzzing the API")
    finally:
        db.stop()


def drill(restore: bool = False) -> None:
    exe, env = _tests_env()
    install.build_web(exe)
    _shown(
        [str(exe), "-m", "cli.drill_restore" if restore else "cli.drill"],
        {**env, "HURBIN_TEST_STATE": str(STATE)},
        "the drill of a restore" if restore else "the reliability drill",
    )
