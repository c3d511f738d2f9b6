"""The command line: what each word does. Standard library only."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from . import backup, checks, install, serving
from .database import Database
from .state import COMPILED, ROOT, STATE, Stop, fail, private, read_json, write_json


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
    serve.add_argument(
        "--behind", metavar="NAME", default="", help="behind nginx with TLS, under this name: writes its file"
    )
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
    ).add_argument(
        "--restore", action="store_true", help="instead: back up, destroy, restore, compare every table"
    )
    calc = add("calc", "evaluate a sheet from standard input without a server")
    calc.add_argument("bench", nargs="?")
    calc.add_argument("--list", action="store_true")
    calc.add_argument("--schema", action="store_true")
    calc.add_argument("--json", action="store_true", help="the answer as data, not as sentences")
    db = add(
        "db",
        "manage the database: backup, restore FILE, reset, rejudge (re-evaluate records), rebuild, dump",
    )
    db.add_argument("what", choices=("backup", "restore", "reset", "rejudge", "rebuild", "dump"))
    db.add_argument("file", nargs="?", default="", help="the backup to restore")
    db.add_argument("--to", default="", help="a second place to which every backup is copied from now on")
    db.add_argument("--demo", action="store_true", help="use the demo database instead of your own")
    db.add_argument("--tag", action="append", default=[], help="rejudge only this set; may be repeated")
    db.add_argument("--yes", action="store_true", help="do not ask for confirmation")
    user = add(
        "user",
        "people: add, password (one that opens once), disable, enable, sign-out, unlock;"
        " for add the password comes from HURBIN_PASSWORD, else one is made and printed",
    )
    user.add_argument("what", choices=("add", "password", "disable", "enable", "sign-out", "unlock"))
    user.add_argument("name")
    user.add_argument("--admin", action="store_true", help="may add sites and is admin on all sites")
    user.add_argument("--full-name", default="")
    user.add_argument("--demo", action="store_true")
    add("people", "list who can sign in, and how many sessions stand").add_argument(
        "--demo", action="store_true"
    )
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
    if args.what == "restore":
        _restore(args, kind, db, name)
        return
    if not db.exists(name):
        print(f"There is no database {name} yet.")
        return
    if args.what == "backup":
        if args.to:
            write_json(STATE / "backup.json", {"to": str(Path(args.to).resolve())})
        made = backup.make(db, name, "by-hand")
        told = read_json(backup.last_of(name))
        print(f"Backup: {made} ({told['tables']} tables, {int(told['bytes']) / 1e6:.1f} MB, checked)")
        print(
            f"Copied to {told['copy']}"
            if told["copy"]
            else told["copy_failed"] or "No second place is set: --to"
        )
        if told["copy_failed"]:
            raise Stop(f"The copy failed: {told['copy_failed']}", "The backup itself stands.")
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
        serving.end(kind)
        serving.MIGRATING.unlink(missing_ok=True)
        db.drop(name)
        if kind == "demo":
            (STATE / "demo.json").unlink(missing_ok=True)
        print(f"{name} deleted. Run ./hurbin {kind} to set it up again.")


def _restore(args: argparse.Namespace, kind: str, db: Database, name: str) -> None:
    """Bring a backup back; what is there now is backed up before."""
    if not args.file:
        raise Stop("Which one? ./hurbin db restore FILE", f"Backups are in {backup.PLACE}.")
    serving.end(kind)
    if not backup.is_empty(db, name):
        print(f"What was there before: {backup.make(db, name, 'before-restore')}")
    tables = backup.restore(db, name, Path(args.file))
    serving.MIGRATING.unlink(missing_ok=True)
    print(f"{name} is as in {Path(args.file).name}: {tables} tables. Start it: ./hurbin {kind}")


def _user(args: argparse.Namespace) -> None:
    exe = install.everything()
    exe, db, env = serving.context("demo" if args.demo else "serve")
    db.start()
    db.create(env["HURBIN_DB_NAME"])
    serving.manage(exe, env, "migrate", "-v0")
    if args.what != "add":
        print(serving.manage(exe, env, "person", args.what, args.name, kept=False).strip())
        return
    word = os.environ.get("HURBIN_PASSWORD", "")
    words = ["add_person", args.name, "--full-name", args.full_name or args.name]
    if args.admin:
        words.append("--admin")
    print(serving.manage(exe, {**env, "HURBIN_NEW_PASSWORD": word}, *words, kept=False).strip())


def main() -> None:
    args = _parser().parse_args()
    private()
    try:
        match args.word:
            case "demo":
                serving.demo(args.port, args.as_of)
            case "serve":
                serving.serve(args.port, args.behind)
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
                checks.drill(args.restore)
            case "calc":
                _calc(args)
            case "db":
                _db(args)
            case "people":
                exe, db, env = serving.context("demo" if args.demo else "serve")
                db.start()
                print(serving.manage(exe, env, "person", "list").rstrip())
            case "user":
                _user(args)
    except Stop as error:
        fail(error)
    except KeyboardInterrupt:
        fail(Stop("Interrupted.", "Run ./hurbin stop to stop what was started."))


if __name__ == "__main__":
    main()
