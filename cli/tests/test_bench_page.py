"""docs/bench.md: what one run renews leaves the figures of the others as they are."""

from __future__ import annotations

from pathlib import Path

import pytest

from cli import bench_page


@pytest.fixture
def page(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    place = tmp_path / "bench.md"
    place.write_text("# Figures\n\nold head\n\n## Core\n\nold core\n\n## Drill\n\nold drill\n")
    monkeypatch.setattr(bench_page, "PAGE", place)
    return place


def test_a_section_is_renewed_where_it_stands(page: Path) -> None:
    bench_page.put_section("Core", "new core")
    assert page.read_text() == "# Figures\n\nold head\n\n## Core\n\nnew core\n\n## Drill\n\nold drill\n"
    bench_page.put_section("Drill", "new drill\n")
    assert page.read_text().endswith("new core\n\n## Drill\n\nnew drill\n")


def test_a_new_section_comes_last_and_a_whole_run_leaves_them(page: Path) -> None:
    bench_page.put_section("Fuzz", "calls")
    bench_page.put_head("# Figures\n\nnew head\n")
    text = page.read_text()
    assert text.startswith("# Figures\n\nnew head\n\n## Core\n\nold core\n")
    assert text.endswith("old drill\n\n## Fuzz\n\ncalls\n")
    assert "old head" not in text
