"""What must be on the machine: Debian packages, the Python environment, the web packages, the built front
end.
"""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

from .state import ENV, LOGS, ROOT, STATE, TEST_ENV, WEB, Stop, run, say, tree_hash

UV = "uv==0.13.9"
PACKAGES = {
    "mariadb-server-core": "/usr/sbin/mariadbd",
    "mariadb-client": "/usr/bin/mariadb",
    "libmariadb-dev": "/usr/bin/mariadb_config",
    "pkg-config": "/usr/bin/pkg-config",
    "build-essential": "/usr/bin/gcc",
    "tzdata": "/usr/share/zoneinfo/Europe/Paris",
}

# What the tests and the measurements look with: Chromium without a screen.
BROWSER = "/usr/bin/chromium-headless-shell"


def packages(for_tests: bool = False) -> None:
    """Install the Debian packages that are missing."""
    wanted = dict(PACKAGES)
    if for_tests:
        wanted["chromium-headless-shell"] = BROWSER
        wanted["ngspice"] = "/usr/bin/ngspice"  # the general solver that our circuits are held against
    if sys.executable.startswith("/usr/bin/"):
        include = Path(f"/usr/include/python{sys.version_info[0]}.{sys.version_info[1]}/Python.h")
        wanted["python3-dev"] = str(include)
        try:
            import ensurepip  # noqa: F401
        except ImportError:
            wanted["python3-venv"] = "/nowhere"
    lacking = [name for name, sign in wanted.items() if not Path(sign).exists()]
    if not lacking:
        return
    say(f"installing Debian packages: {' '.join(lacking)}")
    become: list[str] = []
    if os.getuid() != 0:
        if shutil.which("sudo") is None:
            raise Stop(
                f"Missing Debian packages: {' '.join(lacking)}.",
                f"As root: apt-get install {' '.join(lacking)}",
            )
        become = ["sudo", "-n"]
    advice = f"Run it by hand, then again: {'sudo ' if become else ''}apt-get install {' '.join(lacking)}"
    quietly = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run([*become, "apt-get", "update", "-qq"], what="apt-get update", do=advice, env=quietly)
    run(
        [
            *become,
            "env",
            "DEBIAN_FRONTEND=noninteractive",
            "apt-get",
            "install",
            "-y",
            "-qq",
            "--no-install-recommends",
            *lacking,
        ],
        what="Installing Debian packages",
        do=advice,
        env=quietly,
    )


def _uv() -> str:
    boot = STATE / "boot"
    if not (boot / "bin" / "uv").exists():
        say("creating the Python environment")
        run(
            [sys.executable, "-m", "venv", "--clear", str(boot)],
            what="Creating the virtual environment",
            do="On Debian: apt-get install python3-venv",
        )
        run(
            [str(boot / "bin" / "pip"), "install", "-q", UV],
            what="Installing the package installer",
            do="Check the connection to the package registry.",
        )
    return str(boot / "bin" / "uv")


def python(tests: bool = False) -> Path:
    """The environment's Python, made and brought up to its lock file."""
    place, lock = (TEST_ENV, "requirements-test.lock") if tests else (ENV, "requirements.lock")
    stamp, want = place / ".stamp", tree_hash(ROOT / lock)
    exe = place / "bin" / "python"
    if stamp.exists() and stamp.read_text() == want and exe.exists():
        return exe
    uv = _uv()
    say(f"installing Python packages ({lock})")
    run(
        [sys.executable, "-m", "venv", "--without-pip", "--clear", str(place)],
        what="Creating the virtual environment",
    )
    run(
        [
            uv,
            "pip",
            "sync",
            "-q",
            "--system-certs",
            "--python",
            str(exe),
            "--require-hashes",
            # Else every process that is started compiles them anew, seconds each time.
            "--compile-bytecode",
            str(ROOT / lock),
        ],
        what="Installing Python packages",
        do="Check the connection to the package registry. The output above names the package.",
    )
    stamp.write_text(want)
    return exe


def wheels_314() -> Path:
    """What the core stands on, for Python 3.14 as it runs in a browser; fetched once, each by its hash."""
    _uv()
    lock = ROOT / "cli" / "wasm" / "requirements.lock"
    place, want = STATE / "wheels-314", tree_hash(lock)
    stamp = STATE / "wheels-314.stamp"
    if stamp.exists() and stamp.read_text() == want:
        return place
    say("fetching what the core stands on, for Python 3.14")
    target = ["--python-version", "3.14", "--implementation", "cp", "--abi", "cp314"]
    run(
        [
            str(STATE / "boot" / "bin" / "pip"),
            *("download", "-q", "--require-hashes", "--no-deps", "--only-binary=:all:"),
            *target,
            *("--platform", "pyemscripten_2026_0_wasm32", "-d", str(place), "-r", str(lock)),
        ],
        what="Fetching wheels for Python 3.14",
        do="Check the connection to the package registry.",
    )
    stamp.write_text(want)
    return place


def node_env(exe: Path) -> dict[str, str]:
    return {**os.environ, "PATH": f"{exe.parent}:{os.environ.get('PATH', '')}", "CI": "1"}


def web_packages(exe: Path) -> None:
    stamp, want = WEB / "node_modules" / ".hurbin-stamp", tree_hash(WEB / "package-lock.json")
    if stamp.exists() and stamp.read_text() == want:
        return
    say("installing web packages")
    run(
        ["npm", "ci", "--no-audit", "--no-fund", "--ignore-scripts"],
        what="npm ci",
        cwd=WEB,
        env=node_env(exe),
        do="Check the connection to the package registry.",
    )
    stamp.write_text(want)


def build_web(exe: Path) -> None:
    """Build the front end when its sources changed."""
    stamp = WEB / "dist" / ".hurbin-stamp"
    want = tree_hash(WEB / "src", WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json")
    if stamp.exists() and stamp.read_text() == want:
        return
    web_packages(exe)
    say("building the front end")
    run(["npx", "--no-install", "vite", "build"], what="Building the front end", cwd=WEB, env=node_env(exe))
    run([str(exe), "-m", "whitenoise.compress", "-q", str(WEB / "dist")], what="Compressing the front end")
    stamp.write_text(want)


def everything() -> Path:
    LOGS.mkdir(parents=True, exist_ok=True)
    packages()
    exe = python()
    build_web(exe)
    return exe
