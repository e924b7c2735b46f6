"""Print the tables: all of them, or those that are named.

``server``, ``speed``, ``advice [trials]``, ``rare [trials]``, ``coverage [set-ups]``, ``detective [troubles]``,
``logbook [set-ups]``, ``passes``, ``needle``, ``memory``, ``practice``, ``capture [trials]``; ``detective learn`` writes what the detective
goes by.
"""

import sys

from bench import advice, capture, coverage, detective, logbook, needle, passes, practice, rare, server, speed


def show(title: str, rows: list[list[str]]) -> None:
    widths = [max(len(r[i]) for r in rows) for i in range(len(rows[0]))]
    print(f"\n{title}\n")
    for index, row in enumerate(rows):
        print("| " + " | ".join(cell.ljust(w) for cell, w in zip(row, widths, strict=True)) + " |")
        if index == 0:
            print("| " + " | ".join("-" * w for w in widths) + " |")


def main(asked: list[str]) -> None:
    """What is asked for; without a word, everything."""
    every = not asked
    if every or "server" in asked:
        with server.running() as running:
            show("Server time per event (HTTP, one client)", server.events_table(running))
        with server.running() as running:  # a shop of its own: the chuck is to remember nothing
            show("From Enter to the new move", server.screen_table(running))
    if every or "speed" in asked:
        show("Processor time of one reading in the core", speed.core_table())
        show("Pieces", speed.pieces_table())
        with server.running() as running:
            show("Over the wire", speed.wire_table(running))
        show("Starts", speed.start_table())
    if "learn" in asked:
        detective.learn()
    if every or "detective" in asked:
        troubles = next((int(word) for word in asked if word.isdigit()), 500)
        show(f"Why won't it come in? ({troubles} troubles of one cause each)", detective.table(troubles))
    if every or "advice" in asked:
        trials = next((int(word) for word in asked if word.isdigit()), 100)
        for physics in ("A", "B"):
            show(f"Passes to a proof, physics {physics} ({trials} trials a cell)", advice.table(trials, physics))
            others = advice.table(trials, physics, ("cold",), advice.SCHOOLS)
            show(f"Other ways on the same machines, physics {physics} ({trials} trials a cell)", others)
    if every or "rare" in asked:
        trials = next((int(word) for word in asked if word.isdigit()), 60)
        show(f"What is rare, 0.005 mm, physics A (up to {trials} trials of each sort of part)", rare.table(trials))
    if every or "coverage" in asked:
        setups = next((int(word) for word in asked if word.isdigit()), 2)
        for title, rows in coverage.tables(setups):
            show(f"What a band and a verdict are worth, by {title} ({setups} set-ups a cell)", rows)
    if every or "logbook" in asked:
        count = next((int(word) for word in asked if word.isdigit()), 1_000_000)
        show(f"A set-up found among {count:,} (ms)", logbook.table(count))
    if every or "needle" in asked:
        show(f"Needle to screen ({needle.INDICATORS} live indicators, {needle.SCREENS} screens)", needle.table())
    if every or "memory" in asked:
        show("Memory over an hour of lines from one live indicator", needle.memory())
    if every or "capture" in asked:
        trials = next((int(word) for word in asked if word.isdigit()), 25)
        show(f"A turn or a way captured, against typed readings ({trials} a row)", capture.table(trials))
    if every or "practice" in asked:
        show("A step at the bench to practice on (p95, ms over HTTP)", practice.table())
    if every or "passes" in asked:
        show(f"To the verdict, every procedure ({passes.STARTS} starts a row)", passes.procedure_table())


if __name__ == "__main__":
    main(sys.argv[1:])
