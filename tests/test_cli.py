"""The command line and the settings behind it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.support import ROOT
from velvet_hand import cli
from velvet_hand.settings import from_environment


def test_the_document_is_the_committed_one(tmp_path: Path) -> None:
    target = tmp_path / "openapi.json"
    assert cli.main(["openapi", str(target)]) == 0
    assert target.read_text() == (ROOT / "openapi.json").read_text()


def test_every_answer_and_refusal_is_in_the_document() -> None:
    document = json.loads((ROOT / "openapi.json").read_text())
    assert document["openapi"].startswith("3.1")
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            assert operation["summary"], (method, path)
            refused = [s for s in operation["responses"] if s.startswith("4")]
            assert "422" in refused, (method, path)
            for status in refused:
                content = operation["responses"][status]["content"]
                assert list(content) == ["application/problem+json"], (method, path, status)


def test_every_event_is_told_apart_by_its_type() -> None:
    schemas = json.loads((ROOT / "openapi.json").read_text())["components"]["schemas"]
    kinds = schemas["EventIn"]["properties"]["body"]["discriminator"]["mapping"]
    assert len(kinds) == 20
    for name in kinds.values():
        assert "type" in schemas[name.rsplit("/", 1)[1]]["required"]


def test_migrate_says_what_it_did_and_then_nothing(
    database_url: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("VELVET_DATABASE_URL", database_url)
    assert cli.main(["migrate"]) == 0
    assert capsys.readouterr().out == ""  # the fixture had migrated it
    assert cli.main(["migrate", "--demo"]) == 0
    assert capsys.readouterr().out == ""  # somebody's own shop is left alone


def test_settings_refuse_to_guess_a_database(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("VELVET_DATABASE_URL", raising=False)
    with pytest.raises(SystemExit, match="velvet start"):
        from_environment()


def test_two_that_start_at_once_never_share_a_port() -> None:
    with cli._bound("127.0.0.1", 20000) as first:
        wanted = first.getsockname()[1]
        with cli._bound("127.0.0.1", wanted) as second:
            assert wanted < second.getsockname()[1] < wanted + cli.PORTS
    with pytest.raises(SystemExit, match="Nothing can listen at 192"):
        cli._bound("192.0.2.1", wanted)


def test_an_unknown_command_is_refused() -> None:
    with pytest.raises(SystemExit) as caught:
        cli.main(["brew"])
    assert caught.value.code == 2
