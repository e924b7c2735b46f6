"""Print the tables: passes to tolerance, server time per event, Enter to the new move."""

from bench import passes, server


def show(title: str, rows: list[list[str]]) -> None:
    widths = [max(len(r[i]) for r in rows) for i in range(len(rows[0]))]
    print(f"\n{title}\n")
    for index, row in enumerate(rows):
        print("| " + " | ".join(cell.ljust(w) for cell, w in zip(row, widths, strict=True)) + " |")
        if index == 0:
            print("| " + " | ".join("-" * w for w in widths) + " |")


with server.running() as running:
    show("Server time per event (HTTP, one client)", server.events_table(running))
with server.running() as running:  # a shop of its own: the chuck is to remember nothing
    show("From Enter to the new move", server.screen_table(running))
show(f"Passes to a proof that holds ({passes.STARTS} simulated chucks a row, 0.1 to 1.5 mm off)", passes.table())
show(f"A vise, by every school ({passes.STARTS} starts a row, some tenths off over 160 mm)", passes.vise_table())
show(f"To the verdict, every procedure ({passes.STARTS} starts a row)", passes.procedure_table())
