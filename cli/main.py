"""The command line: what each word does. Standard library only."""

from __future__ import annotations

import argparse
import os
import sys

from . import checks, install, serving
from .state import COMPILED, ROOT, STATE, Stop, fail


def _parser() -> argparse.ArgumentParser:
    p = argparse.ArgumentParser(
        prog="hurbin", description="Hurbin: pump maintenance records, calculations and evaluation."
    )
    sub = p.add_subparsers(dest="word", required=True, metavar="COMMAND")

    def add(name: str, help: str) -> argparse.ArgumentParser:
        return sub.add_parser(name, help=help, description=help)

    demo = add("demo", "install what is missing, load the demo and start it in the background")
    demo.add_argument("--port", type=int, default=8470)
    demo.add_argument(
        "--as-of", default=serving.DEMO_AS_OF, help="date and time at which the demo starts (ISO, UTC)"
    )
    serve = add("serve", "start your own plant in the background (no demo data)")
    serve.add_argument("--port", type=int, default=8471)
    add("stop", "stop what this script started, nothing else")
    add("status", "show what is running")
    add("logs", "show the last lines of every log").add_argument("-n", type=int, default=20)
    test = add("test", "run all tests: lint, types, rules, core, server, web, end to end, build")
    test.add_argument("--only", choices=checks.PARTS, action="append")
    add("check", "run lint, type, import-rule and generated-file checks")
    add("generate", "regenerate docs/openapi.json and the TypeScript types")
    add("bench", "run the benchmarks and write docs/bench.md").add_argument(
        "--only",
        choices=[
            "alignment",
            "circuit",
            "core",
            "drives",
            "import",
            "jobs",
            "server",
            "steps",
            "water",
            "web",
        ],
        default="",
        help="only this benchmark",
    )
    add("fuzz", "fuzz the API from its own description (at least 5,000 calls)").add_argument(
        "--examples", type=int, default=60
    )
    add(
        "drill",
        "reliability test: save from four clients, kill workers and the database, look for losses",
    )
    calc = add("calc", "evaluate a sheet from standard input without a server")
    calc.add_argument("bench", nargs="?")
    calc.add_argument("--list", action="store_true")
    calc.add_argument("--schema", action="store_true")
    calc.add_argument("--json", action="store_true", help="the answer as data, not as sentences")
    db = add("db", "manage the database: reset, rejudge (re-evaluate records), rebuild, dump")
    db.add_argument("what", choices=("reset", "rejudge", "rebuild", "dump"))
    db.add_argument("--demo", action="store_true", help="use the demo database instead of your own")
    db.add_argument("--tag", action="append", default=[], help="rejudge only this set; may be repeated")
    db.add_argument("--yes", action="store_true", help="do not ask for confirmation")
    user = add("user", "people: add; the password comes from HURBIN_PASSWORD, else one is made and printed")
    user.add_argument("what", choices=("add",))
    user.add_argument("name")
    user.add_argument("--admin", action="store_true", help="may add sites and is admin on all sites")
    user.add_argument("--full-name", default="")
    user.add_argument("--demo", action="store_true")
    return p


def _calc(args: argparse.Namespace) -> None:
    exe = install.python()
    flags = [f"--{n}" for n in ("list", "schema", "json") if getattr(args, n)]
    words = [*([args.bench] if args.bench else []), *flags]
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT}", **COMPILED}
    os.execve(str(exe), [str(exe), "-m", "cli.calc", *words], env)


def _db(args: argparse.Namespace) -> None:
    kind = "demo" if args.demo else "serve"
    install.packages()
    exe, db, env = serving.context(kind)
    db.start()
    name = env["HURBIN_DB_NAME"]
    if args.what in ("rejudge", "rebuild"):
        tags = [f"--tag={t}" for t in args.tag] if args.what == "rejudge" else []
        serving.manage(exe, env, args.what, *tags, quiet=False)
        return
    if not db.exists(name):
        print(f"There is no database {name} yet.")
        return
    if args.what == "reset" and not args.yes:
        if not sys.stdin.isatty():
            raise Stop(
                f"This deletes all data in {name}.",
                "To confirm: ./hurbin db reset --yes (a dump is made first)",
            )
        asked = f"This deletes all data in {name} (after a dump). Type the database name to continue: "
        if input(asked).strip() != name:
            raise Stop("Nothing was changed.")
    dump = db.dump(name)
    print(f"Dumped to {dump}")
    if args.what == "reset":
        serving.end_process(f"{kind}-tasks")
        serving.end_process(kind)
        db.drop(name)
        if kind == "demo":
            (STATE / "demo.json").unlink(missing_ok=True)
        print(f"{name} deleted. Run ./hurbin {kind} to set it up again.")


def _user(args: argparse.Namespace) -> None:
    exe = install.everything()
    exe, db, env = serving.context("demo" if args.demo else "serve")
    db.start()
    db.create(env["HURBIN_DB_NAME"])
    serving.manage(exe, env, "migrate", "-v0")
    word = os.environ.get("HURBIN_PASSWORD", "")
    words = ["add_person", args.name, "--full-name", args.full_name or args.name]
    if args.admin:
        words.append("--admin")
    print(serving.manage(exe, {**env, "HURBIN_NEW_PASSWORD": word}, *words).strip())


def main() -> None:
    args = _parser().parse_args()
    try:
        match args.word:
            case "demo":
                serving.demo(args.port, args.as_of)
            case "serve":
                serving.serve(args.port)
            case "stop":
                serving.stop()
            case "status":
                serving.status()
            case "logs":
                serving.logs(args.n)
            case "test":
                checks.test(args.only)
            case "check":
                checks.check()
            case "generate":
                checks.generate()
            case "bench":
                checks.bench(args.only)
            case "fuzz":
                checks.fuzz(args.examples)
            case "drill":
                checks.drill()
            case "calc":
                _calc(args)
            case "db":
                _db(args)
            case "user":
                _user(args)
    except Stop as error:
        fail(error)
    except KeyboardInterrupt:
        fail(Stop("Interrupted.", "Run ./hurbin stop to stop what was started."))


if __name__ == "__main__":
    main()
