"""Who may do what: one table. A route that is not in it is nobody's; a new role is a new column
here and nowhere else.
"""

from flaneur.core.people import Role

ANYONE: frozenset[Role] | None = None  # signed in or not
ALL = frozenset(Role)
LEADS = frozenset({Role.LEAD})

_OPEN = ("session.me", "session.sign_in", "session.first", "pages.index", "openapi.document")
_ALL_READ = (
    "yard.yard",
    "yard.find",
    "units.get_units",
    "units.list_out",
    "shop.get_shop",
    "books.books",
    "books.book",
    "books.clearance",
    "books.changes",
    "books.touch",
    "books.loose",
    "books.post_examine",
    "face.book_face",
    "face.worn_face",
    "face.job_part",
    "face.off_face",
    "intake.job",
    "readings.get_readings",
    "readings.photo",
    "readings.preview_sheet",
    "captures.files_on_their_way",
    "viewer.traces",
    "viewer.capture_detail",
    "viewer.window",
    "viewer.step_to_edge",
    "viewer.compare",
    "viewer.export",
    "viewer.export_correlation",
    "logs.get_logs",
    "logs.export_log",
    "live.look",
    "verdict.verdict",
    "verdict.advice",
    "plan.get_plan",
    "plan.preview",
    "bench.get_bench",
    "proof.get_proof",
    "handover.get_handover",
    "handover.html",
    "handover.pdf",
    "archives.archive",
    "keys.get_keys",
)
_ALL_WORK = (
    "session.sign_out",
    "session.change_password",
    "yard.start_job",
    "units.read_meter",
    "units.strike_reading",
    "intake.put_intake",
    "intake.post_undo",
    "readings.type_cam",
    "readings.keep_sheet",
    "readings.add_photo",
    "readings.strike_out",
    "readings.set_phaser",
    "captures.capture_from_box",
    "captures.capture_from_file",
    "captures.say_channels",
    "captures.cancel",
    "captures.strike_capture_out",
    "viewer.leave_out",
    "viewer.take_back",
    "logs.sweep",
    "logs.log_from_file",
    "live.connect",
    "live.command",
    "live.start_record",
    "live.keep_live",
    "live.disconnect",
    "plan.choose",
    "plan.start",
    "bench.close_step",
    "bench.reopen_step",
    "proof.put_hands",
    "proof.put_cause",
    "proof.release",
    "archives.import_archive",
)

RIGHTS: dict[str, frozenset[Role] | None] = {
    **dict.fromkeys(_OPEN, ANYONE),
    **dict.fromkeys((*_ALL_READ, *_ALL_WORK), ALL),
    "handover.sign": LEADS,
    "verdict.decide": LEADS,
    "shop.change_rates": LEADS,
    "shop.change_bands": LEADS,
    "people.get_people": LEADS,
    "people.add_person": LEADS,
    "people.give_role": LEADS,
    "people.deactivate": LEADS,
    "people.reactivate": LEADS,
    "people.reset_password": LEADS,
    "books.adopt": LEADS,
    "books.take_in": LEADS,
    **dict.fromkeys(
        (
            "units.add_unit",
            "units.change_unit",
            "units.add_engine",
            "units.change_engine",
            "units.mount_engine",
            "units.take_engine_off",
            "units.add_place",
            "units.change_place",
            "units.preview_list",
            "units.take_list",
            "shop.change_shop",
        ),
        LEADS,
    ),
    "keys.add_key": LEADS,
    "keys.remove_key": LEADS,
    # Acts inside a route that is open to others.
    "act:release over a condition": LEADS,
    "act:undo what a lead decided": LEADS,
}


def may(role: str, what: str) -> bool:
    """Whether somebody of ``role`` may use an endpoint or do an act. What the table does not name,
    nobody may.
    """
    allowed = RIGHTS.get(what, frozenset())
    return allowed is None or role in allowed
