"""From a drawing to a file that goes out: planned, printed, two operations worked, the first cut entered, found again, compared."""

from __future__ import annotations

from typing import Any

import numpy as np

from tests.e2e.axe import faults_of
from tests.e2e.machinist import Beside, Machinist
from tests.e2e.test_job import tell
from tests.e2e.test_logbook import TRUE
from tests.e2e.waiting import arrived


def work(page: Any, *, beside: bool = False) -> str:
    """The set-up whose start page is shown, by keys, or at another tablet, to its proof."""
    page.wait_for_url("**/plan?*")  # the job's own page has a field for the part as well
    page.wait_for_function("() => document.querySelector('[aria-label=Part]')?.value === 'Type bed bearing'")
    page.keyboard.press("Control+Enter")
    page.wait_for_url("**/set-up/*")
    page.locator("[data-part=headline]").wait_for()
    setup_id = str(page.url.rsplit("/", 1)[-1])
    person = Machinist(page, TRUE)
    person.take(setup_id)
    if beside:
        assert person.chuck is not None
        arrived(page, Beside(setup_id, person.chuck, np.random.default_rng(5)).run().state.seq)
        return setup_id
    person.make_ready()
    person.work_until_clear(setup_id)
    return setup_id


def test_a_job_goes_from_its_drawing_to_a_file(page: Any) -> None:
    page.goto("/job")
    tell(page, "Part", "Type bed bearing")
    tell(page, "Diameter", "62 mm")
    tell(page, "True within", "1")
    page.get_by_role("option", name="Four-jaw 200").focus()
    page.get_by_text("chuck key out of the chuck").wait_for()
    for name in ("First side", "Second side"):
        page.get_by_role("button", name="Add what is chosen").press("Enter")
        page.wait_for_function(
            "name => [...document.querySelectorAll('.order li input')].some((one) => one.value === name)", arg=name
        )
    page.locator(".order li").first.get_by_role("button", name="Start").press("Enter")
    printing = page.get_by_role("button", name="Print its sheet")
    page.wait_for_function(
        "() => [...document.querySelectorAll('button')].some((b) => b.innerText === 'Print its sheet' && !b.disabled)"
    )
    with page.expect_popup() as opened:
        printing.press("Enter")
    sheet = opened.value
    sheet.get_by_role("heading", name="Type bed bearing").wait_for()
    sheet.get_by_text("Set-up sheet").first.wait_for()
    assert sheet.locator("td").count() > 20  # room for readings
    sheet.close()
    first = work(page)

    page.goto("/job")
    page.locator(".order li").first.get_by_text("Done", exact=True).wait_for()
    page.locator(".order li").nth(1).get_by_role("button", name="Start").press("Enter")
    second = work(page, beside=True)

    page.goto(f"/logbook/{first}")
    page.get_by_role("textbox", name="It measured").focus()
    page.keyboard.type("0.4")
    page.keyboard.press("Enter")
    page.get_by_text("Piece 1 measured").first.wait_for()
    page.goto("/logbook")
    page.wait_for_function("() => document.activeElement.getAttribute('aria-label')?.startsWith('Look for')")
    page.keyboard.type("type bed bear")
    page.get_by_role("link", name="Type bed bearing").nth(1).wait_for()

    page.goto(f"/compare?a={first}&b={second}")
    page.get_by_role("heading", name="Type bed bearing").nth(1).wait_for()
    assert faults_of(page) == []
    page.goto(f"/logbook/{first}")
    for name, ending in (("Readings", ".csv"), ("JSON", ".json"), ("Picture, SVG", ".svg"), ("Picture, PNG", ".png")):
        with page.expect_download() as taken:
            page.get_by_role("button", name=name).or_(page.get_by_role("link", name=name, exact=True)).press("Enter")
        assert taken.value.suggested_filename.endswith(ending)
        data = taken.value.path().read_bytes()
        head = {".csv": b"place,reading", ".json": b"[", ".svg": b"<svg", ".png": b"\x89PNG"}[ending]
        assert data.startswith(head)
        assert len(data) > 60
