"""script/bench [SUBJECT ...] [--json] [--tiny] [--full]: measure, and say whether every figure
holds its bar.
"""

import argparse
import importlib
import json
import sys

SUBJECTS = (
    "geometry",
    "turning",
    "clearance",
    "books",
    "plan",
    "correlation",
    "readings",
    "viewer",
    "pages",
    "diagnosis",
    "trend",
    "fleet",
    "bench",
    "records",
    "api",
    "load",
)
DRAWN, MORE = ("diagnosis", "trend", "bench"), 5


def main() -> int:
    parser = argparse.ArgumentParser(
        prog="script/bench", description="Measures what the product claims."
    )
    parser.add_argument(
        "subject", nargs="*", choices=[[], *SUBJECTS], help="one of: " + ", ".join(SUBJECTS)
    )
    parser.add_argument("--json", action="store_true", help="one JSON object a line")
    parser.add_argument(
        "--tiny",
        action="store_true",
        help="as little of each as shows that it runs; figures mean nothing",
    )
    parser.add_argument(
        "--full",
        action="store_true",
        help=f"{MORE} times as many engines and ten times as many walks: for a night",
    )
    arguments = parser.parse_args()
    held = True
    for subject in arguments.subject or SUBJECTS:
        more = {"times": MORE} if arguments.full and subject in DRAWN else {}
        run = importlib.import_module(f"bench.{subject}").run
        for figure in run(is_tiny=arguments.tiny, **more):
            held = held and figure.holds
            if arguments.json:
                print(json.dumps(figure.as_dict(), ensure_ascii=False), flush=True)
            else:
                mark = "holds" if figure.holds else "MISSES"
                print(
                    f"{figure.subject:12} {figure.name:58} {figure.value:11.4g}   bar "
                    f"{figure.bar:<8g} {mark}",
                    flush=True,
                )
    return 0 if held else 1


if __name__ == "__main__":
    sys.exit(main())
