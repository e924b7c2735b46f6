"""The page that tells of this API: every address with what it takes and gives, and an example to try."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

from flask import Flask, Response, current_app, request
from jinja2 import Environment, PackageLoader, StrictUndefined

#: Deeper than this an example says no more.
DEEP = 6
_PAGES = Environment(loader=PackageLoader("velvet_hand.api", "templates"), autoescape=True, undefined=StrictUndefined)


def install(app: Flask) -> None:
    """Serve the page at /api, and the document itself beside it."""
    app.add_url_rule("/api", "guide", guide)
    app.add_url_rule("/api/openapi.json", "document", document)
    app.add_url_rule("/api/guide.css", "guide_css", style)


def guide() -> Response:
    """All of it, from the document."""
    doc = _document()
    addresses = list(_addresses(doc, request.host_url.rstrip("/")))
    made = _PAGES.get_template("guide.html.j2").render(addresses=addresses, version=doc["info"]["version"])
    return Response(made, content_type="text/html; charset=utf-8")


def document() -> Response:
    """OpenAPI 3.1."""
    return Response(current_app.json.dumps(_document()), content_type="application/json")


def _document() -> dict[str, Any]:
    app: Any = current_app
    found: dict[str, Any] = app.api_doc
    return found


def style() -> Response:
    """How the page looks."""
    text = (Path(__file__).parent / "templates" / "guide.css").read_text()
    return Response(text, content_type="text/css; charset=utf-8")


def _addresses(doc: Mapping[str, Any], host: str) -> Iterator[dict[str, Any]]:
    for path, methods in sorted(doc["paths"].items()):
        for method, told in methods.items():
            body = told.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
            answer: Mapping[str, Any] = next(
                (r for code, r in sorted(told["responses"].items()) if str(code).startswith("2")), {}
            )
            kinds = answer.get("content", {})
            gives = kinds.get("application/json", {}).get("schema")
            example = None if body is None else _dumped(_example(doc, body))
            yield {
                "method": method.upper(), "path": path, "summary": told.get("summary", ""), "about": told.get("description", ""),
                "asks": [_asked(p) for p in told.get("parameters", [])], "kinds": ", ".join(kinds) or "JSON",
                "call": _call(host, path, method.upper(), example), "gives": None if gives is None else _dumped(_example(doc, gives)),
            }  # fmt: skip


def _asked(one: Mapping[str, Any]) -> dict[str, str]:
    kind = one.get("schema", {})
    words = " | ".join(map(str, kind["enum"])) if "enum" in kind else str(kind.get("type", ""))
    return {"name": one["name"], "where": one["in"], "kind": words, "about": one.get("description", "")}


def _call(host: str, path: str, method: str, body: str | None) -> str:
    """How to ask for it from a terminal."""
    head = f"curl{'' if method == 'GET' else f' -X {method}'} {host}{path}"
    return head if body is None else f"{head} \\\n  -H 'Content-Type: application/json' -d '{body}'"


def _dumped(value: Any) -> str:
    return str(current_app.json.dumps(value, indent=1))


def _example(doc: Mapping[str, Any], schema: Mapping[str, Any], deep: int = 0) -> Any:
    """A value that the schema allows: what has a default or is one of several is that."""
    if "$ref" in schema:
        name = schema["$ref"].rsplit("/", 1)[1]
        return _example(doc, doc["components"]["schemas"][name], deep + 1) if deep < DEEP else {}
    for key in ("example", "const", "default"):
        if key in schema:
            return schema[key]
    for key in ("enum", "examples"):
        if schema.get(key):
            return schema[key][0]
    for key in ("oneOf", "anyOf", "allOf"):
        if schema.get(key):
            return _example(doc, schema[key][0], deep + 1)
    match schema.get("type"):
        case "object":
            asked = schema.get("required", []) if deep else schema.get("required") or list(schema.get("properties", {}))
            return {
                name: _example(doc, schema["properties"][name], deep + 1)
                for name in asked
                if name in schema.get("properties", {})
            }
        case "array":
            return [_example(doc, schema["items"], deep + 1)] if schema.get("items") and deep < DEEP else []
        case "integer":
            return int(schema.get("minimum", 1))
        case "number":
            return float(schema.get("minimum", 0))
        case "boolean":
            return True
    return {
        "uuid": "4d1f6c0e-7d63-4a39-8f0b-2f3f3a1c9b10",
        "date-time": "2026-01-05T09:00:00Z",
        "date": "2026-01-05",
    }.get(str(schema.get("format")), "text")
