"""The command line: JSON out, plain ends, and the words of the screen when something cannot be used."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from click.testing import CliRunner, Result

from tests.core.bench_person import Person
from tests.support import drop_database, fill_shop, fresh_database
from velvet_hand.command import main
from velvet_hand.core.setup import events as ev
from velvet_hand.store import database as db
from velvet_hand.store import setups


def run(*words: str) -> Result:
    return CliRunner().invoke(main, list(words))


def wrong(found: Result, code: int) -> dict[str, Any]:
    assert found.exit_code == code, found.output
    assert found.stdout == ""
    told: dict[str, Any] = json.loads(found.stderr)
    assert told["why"]
    return told


def test_a_sum_is_worked_and_turned_round() -> None:
    found = json.loads(run("sum", "tir", "tir=4", "--unit", "thou").stdout)
    assert found["figures"]["off"]["value"] == "2.00"
    back = json.loads(run("sum", "sine", "height=50").stdout)
    assert back["figures"]["angle"]["value"] == "30.0000"
    assert len(json.loads(run("sum", "list").stdout)) > 30


@pytest.mark.parametrize(
    ("words", "code", "field"),
    [
        (("sum", "nothing"), 4, "sum_id"),
        (("sum", "sine", "height=200"), 3, "height"),
        (("sum", "sine", "hight=20"), 3, "hight"),
        (("sum", "sine", "height"), 3, "height"),
        (("sum", "sine", "height=nonsense"), 3, "height"),
    ],
)
def test_what_is_no_sum_is_told_in_words(words: tuple[str, ...], code: int, field: str) -> None:
    assert wrong(run(*words), code)["field"] == field


def test_a_line_that_is_wrong_ends_with_two() -> None:
    for words in (
        ("brew",),
        ("sum",),
        ("sum", "tir", "--unit", "cubit"),
        ("solve", "nowhere.json"),
        ("report", "x", "y.pdf"),
    ):
        assert run(*words).exit_code == 2


def test_readings_go_in_and_the_move_comes_out(tmp_path: Path) -> None:
    person = Person()
    person.read_all(0.0, 0.1, 0.2, 0.1, closing=0.0)
    file = tmp_path / "set-up.json"
    file.write_text(json.dumps([e.model_dump(mode="json") for e in person.events]))
    found = json.loads(run("solve", str(file)).stdout)
    move = person.solve().moves[0]
    assert found["moves"][0]["aim_mm"] == pytest.approx(move.aim_mm)
    assert found["moves"][0]["watch"] == (move.needle.label if move.needle else None)
    assert found["headline"].startswith("Back off")
    assert found["verdict"] is None
    assert "thou" in json.loads(run("solve", str(file), "--unit", "thou").stdout)["unit"]


@pytest.mark.parametrize("text", ["", "[]", "{}", "[3]", '[{"id": 4}]', "nonsense", "\x00", "[" * 5000])
def test_a_file_that_is_no_set_up_is_told(tmp_path: Path, text: str) -> None:
    file = tmp_path / "set-up.json"
    file.write_text(text)
    told = wrong(run("solve", str(file)), 3)
    assert told["field"] == "file"
    assert ": ." not in told["why"]


def test_a_set_up_that_does_not_fold_is_told(tmp_path: Path) -> None:
    person = Person()
    odd = person.events[-1].model_copy(
        update={"body": ev.PassClosed(pass_no=7), "id": uuid4(), "seq": len(person.events) + 1}
    )
    file = tmp_path / "set-up.json"
    file.write_text(json.dumps([e.model_dump(mode="json") for e in (*person.events, odd)]))
    assert wrong(run("solve", str(file)), 3)["code"] == "stale"


def test_a_shop_goes_out_in_and_onto_paper(tmp_path: Path, admin_url: str, monkeypatch: pytest.MonkeyPatch) -> None:
    names = [f"command_{uuid4().hex[:8]}" for _ in range(2)]
    urls = [fresh_database(admin_url, name) for name in names]
    database = db.connect(urls[0])
    db.migrate(database)
    person, setup_id = Person(), uuid4()
    with database.connection_context():
        fill_shop()
        setups.open_setup(setup_id, person.events[0])
    database.close_all()
    file, other = tmp_path / "shop.zip", tmp_path / "again.zip"
    monkeypatch.setenv("VELVET_DATABASE_URL", urls[0])
    assert json.loads(run("export", str(file)).stdout)["bytes"] == file.stat().st_size
    pdf = tmp_path / "sheet.pdf"
    assert run("report", str(setup_id), str(pdf), "--kind", "sheet").exit_code == 0
    assert pdf.read_bytes().startswith(b"%PDF-")
    assert wrong(run("report", str(uuid4()), str(pdf)), 4)["code"] == "unknown_set_up"
    nowhere = str(tmp_path / "nowhere" / "x")
    for line in (("export", nowhere), ("report", str(setup_id), nowhere)):
        assert "nowhere" in wrong(run(*line), 3)["why"]
    monkeypatch.setenv("VELVET_DATABASE_URL", urls[1])
    taken = json.loads(run("import", str(file)).stdout)
    assert (taken["setups"], taken["known"]) == (1, 0)
    assert json.loads(run("import", str(file)).stdout)["known"] == taken["things"] + 1
    other.write_bytes(file.read_bytes()[:-40])
    assert wrong(run("import", str(other)), 3)["code"] == "archive_unreadable"
    monkeypatch.setenv("VELVET_DATABASE_URL", "postgresql://nobody@127.0.0.1:1/none")
    assert wrong(run("export", str(other)), 5)["code"] == "busy"
    for name in names:
        drop_database(admin_url, name)


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_a_shell_finishes_commands_by_itself(shell: str) -> None:
    found = run("completion", shell)
    assert found.exit_code == 0
    assert "_VELVET_HAND_COMPLETE" in found.stdout
    asked = CliRunner().invoke(
        main,
        [],
        prog_name="velvet-hand",
        env={"_VELVET_HAND_COMPLETE": "bash_complete", "COMP_WORDS": "velvet-hand so", "COMP_CWORD": "1"},
    )
    assert "solve" in asked.stdout


def test_a_hidden_machine_is_practiced_on_from_a_file(tmp_path: Path) -> None:
    listed = json.loads(run("practice", "list").stdout)
    assert {"half", "oval"} <= {one["drill"] for one in listed["drills"]}
    assert "four_jaw.hard" in listed["machines"]
    begun = json.loads(run("practice", "oval", "--seed", "7", "--unit", "thou").stdout)
    spot = begun["spots"][2]
    assert spot["typed"] is None
    typed = {"text": str(round(spot["needle_mm"], 3)), "unit": "mm"}
    taken = {"type": "reading_taken", "pass_no": 1, "station_id": spot["station_id"], "typed": typed}
    done: list[dict[str, Any]] = [{"type": "done", "body": taken}, {"type": "ask"}]
    file = tmp_path / "done.json"
    file.write_text(json.dumps(done))
    after = json.loads(run("practice", "oval", str(file), "--seed", "7").stdout)
    assert after["spots"][2]["typed"] == typed["text"]
    assert after["asked"].startswith("Opposite spots read alike")
    file.write_text(json.dumps([*done, {"type": "good", "fault": "form"}]))
    ended = json.loads(run("practice", "oval", str(file), "--seed", "7").stdout)["ended"]
    assert ended["good"] is True
    assert ended["seconds"] == 30
    assert "out of round" in ended["truth"]


@pytest.mark.parametrize(
    ("drill", "kept", "code"),
    [
        ("chess", "[]", 4),
        ("half", "nonsense", 3),
        ("half", '[{"type": "fly"}]', 3),
        ("half", '[{"type": "hand", "control": "jaw9", "amount": 1}]', 3),
        ("half", '[{"type": "good", "fault": null}, {"type": "ask"}]', 3),
    ],
)
def test_what_cannot_be_practiced_is_told_in_words(tmp_path: Path, drill: str, kept: str, code: int) -> None:
    file = tmp_path / "done.json"
    file.write_text(kept)
    assert wrong(run("practice", drill, str(file)), code)
