"""A printer nobody has calibrated is learned from the photographs of its sheets.

What was learned is kept with what it came from, and grows with the pile: it is worked out again
when half as many photographs more have been read, and undecided sheets are then read by it.
"""

from sqlalchemy.orm import Session

from noema.core.language import N_
from noema.core.photo.learned_print import PrintLook, learn_print
from noema.core.photo.seen_print import SeenPrint
from noema.formats.plain import from_plain
from noema.store.looks_at_printers import looks_at_printer, looks_counted, undecided_of_printer
from noema.store.printers import Learned, printer_of_assignment, printer_to_learn, set_learned
from noema.store.queue import queue_learning, queue_rereading

_FEWEST = 3
_GROWTH = 1.5
_WHAT = N_("reading")


def ask_to_learn(session: Session, assignment_id: int) -> None:
    """After a photograph was read: learn its printer, once the pile is through."""
    printer = printer_of_assignment(session, assignment_id)
    if printer is not None and not printer.looks:
        queue_learning(session, printer.id)


def learn_printer(session: Session, printer_id: int) -> None:
    """Learn a printer anew where there is enough that is new."""
    printer = printer_to_learn(session, printer_id)
    if printer is None:
        return
    before = 0 if printer.learned is None else printer.learned.counted
    count = looks_counted(session, printer_id, printer.learns_from)
    if count < max(_FEWEST, _GROWTH * before):
        return
    looks = [
        PrintLook(seen=from_plain(SeenPrint, one.seen, _WHAT), day=one.day)
        for one in looks_at_printer(session, printer_id, printer.learns_from)
    ]
    learned = learn_print(looks)
    if learned is None:
        return
    set_learned(session, printer_id, Learned(print=learned, counted=count))
    if learned.cameras > 1:
        for photograph_id in undecided_of_printer(session, printer_id):
            queue_rereading(session, photograph_id)
