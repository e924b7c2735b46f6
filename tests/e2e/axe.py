"""What axe-core says against a page."""

from __future__ import annotations

from importlib.resources import files
from typing import Any

#: What is looked for; and what may differ between light and dark.
EVERYTHING = "['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']"
COLORS = "{type: 'rule', values: ['color-contrast', 'link-in-text-block']}"


def faults_of(page: Any, what: str = EVERYTHING, within: str = "document") -> list[str]:
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(_script())  # a script tag would break the page's content policy
    found = page.evaluate(f"() => axe.run({within}, {{runOnly: {what}, resultTypes: ['violations'], iframes: false}})")
    return [
        f"{page.url}: {v['id']}: {n['html'][:120]} {n['failureSummary'][:160]}"
        for v in found["violations"]
        for n in v["nodes"]
    ]


def _script() -> str:
    return (files("axe_playwright_python") / "axe.min.js").read_text()
