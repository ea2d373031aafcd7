"""What lies in the demo depot's stores, as a lead would have typed it."""

from datetime import date, timedelta

from flaneur.core.plan.days import working_day
from flaneur.core.stores.lists import ListKind

TANSY = "Ostrey Tansy"


def lists(today: date) -> dict[ListKind, list[list[str]]]:
    """Every list, its cells in the order of its columns."""
    due, back = working_day(today, 3), working_day(today, 2)
    return {
        ListKind.SUPPLIERS: [
            ["Mainland parts counter", "4", "By the morning boat"],
            ["Harbour stores", "1", "Oil, filters, sealant"],
        ],
        ListKind.STOCK: [
            *[[item, TANSY, "1", "Shelf 3"] for item in ("Primary guide", "Front crank seal")],
            ["Primary tensioner", TANSY, "1", "Shelf 3"],
            ["Tensioner B (2-4-6)", TANSY, "1", "Shelf 3"],
            ["Phaser bolt", TANSY, "2", "Drawer 11"],
            ["Crank pulley bolt", TANSY, "2", "Drawer 11"],
            ["New gasket and plug well seals", "", "3", "Shelf 5"],
            ["Pump seal", "", "2", "Drawer 4"],
            ["Oil filter", "", "6", "Shelf 1"],
            ["Engine oil", "", "4", "Cans by the door"],
            ["Coolant", "", "2", "Cans by the door"],
        ],
        ListKind.ORDERS: [
            [
                *("Primary chain", TANSY, "1", "Mainland parts counter"),
                *(str(today), str(due)),
            ]
        ],
        ListKind.TOOLS: [
            *[[tool, "owned", "", ""] for tool in OWNED],
            ["Cam holders", "calibration", str(back), "Checked for wear each year"],
            ["Hexagon clamps", "hired", "", "Two pairs"],
        ],
        ListKind.WRENCHES: [
            ["Small wrench", "5", "25", "0.5", "6", str(today + timedelta(days=200)), "owned"],
            ["Middle wrench", "20", "100", "1", "5", str(today + timedelta(days=90)), "owned"],
            ["Large wrench", "60", "300", "5", "8", str(today - timedelta(days=12)), "owned"],
        ],
        ListKind.WEAR: [[f"{tag} main", *cells] for tag, *cells in WEAR],
    }


# From the card index of the years before: unit, hours, part, wear, give or take, renewed.
WEAR = (
    ("AMB-1", "1800", "Secondary chain A (1-3-5)", "0.21", "0.04", "no"),
    ("AMB-1", "3600", "Secondary chain A (1-3-5)", "0.5", "0.05", "no"),
    ("AMB-1", "3600", "Primary chain", "0.12", "0.05", "no"),
    ("PIL-2", "2900", "Primary chain", "0.31", "0.02", "yes"),
    ("PIL-2", "2900", "Primary guide", "1.1", "0.1", "yes"),
    ("PIL-2", "4800", "Secondary chain B (2-4-6)", "0.22", "0.05", "no"),
    ("SNO-1", "1500", "Primary chain", "0.3", "0.05", "no"),
    ("SNO-1", "2800", "Primary chain", "0.58", "0.05", "no"),
    ("GEN-1", "3000", "Secondary chain B (2-4-6)", "0.28", "0.05", "no"),
    ("GEN-1", "5600", "Secondary chain B (2-4-6)", "0.63", "0.05", "no"),
    ("GEN-1", "5600", "Guide B (2-4-6)", "1.4", "0.2", "no"),
    ("AMB-4", "2400", "Secondary chain B (2-4-6)", "0.33", "0.05", "no"),
    ("PIL-5", "1500", "Guide A (1-3-5)", "1.6", "0.2", "no"),
    ("AMB-7", "3000", "Timing chain", "0.24", "0.04", "no"),
    ("AMB-7", "4600", "Timing chain", "0.41", "0.04", "no"),
    ("PIL-8", "2600", "Short chain A (1-3-5)", "0.34", "0.05", "no"),
    ("SNO-3", "1900", "Chain B (2-4-6-8)", "0.36", "0.05", "no"),
    ("FIR-9", "380", "Chain, rear head", "0.22", "0.05", "no"),
    ("GEN-2", "4000", "Timing chain", "0.42", "0.08", "no"),
    ("GEN-2", "7000", "Timing chain", "0.78", "0.08", "no"),
)


OWNED = (
    *("8 mm socket", "10 mm socket", "13 mm socket", "18 mm socket", "21 mm socket, long bar"),
    *("3 mm pin", "Air line", "Angle gauge", "Bolt card", "Calliper", "Clean drain pan"),
    *("Crank pin", "Depth gauge", "Engine support", "Labels", "Long bar", "Long spanner"),
    *("Open spanner for the hexagon", "Paint pen", "Plastic scraper", "Plug socket"),
    *("Pulley holder", "Seal driver", "Seal puller", "Solvent", "Three-leg puller"),
)
