"""What stands before the application: a reverse proxy that takes requests from slow and broken
clients and hands on only whole ones, shares them between the web processes, and speaks HTTPS.
"""

import argparse
import json
import os
import signal
import sys
import time
from contextlib import suppress
from pathlib import Path

from flaneur.api.limits import LARGE, WORDS_BYTES, largest_bytes
from flaneur.api.models import ErrorOut
from flaneur.api.settings import Settings
from flaneur.core.errors import ErrorCode

# Addresses that take files, and those of the process that keeps the live looks. Compared with the
# application's own by test.
FILES = (
    "^/api/import$",
    "^/api/jobs/[0-9]+/captures/file$",
    "^/api/jobs/[0-9]+/logs/file$",
    "^/api/jobs/[0-9]+/readings/[0-9]+/photos$",
    "^/api/jobs/[0-9]+/bench/photos$",
)
LIVE = "^/api/jobs/[0-9]+/live"
# What takes the machine a while has a process of its own, which gives way to the others.
HEAVY = (
    "^/api/books/examine$",
    "^/api/books/[0-9]+/(changes|clearance|loose|touch/[^/]+)$",
    "^/api/jobs/[0-9]+/verdict$",
    "^/api/jobs/[0-9]+/plan/(preview|roads|ready|offers|estimate|sheets/[a-z]+\\.pdf)$",
    "^/api/jobs/[0-9]+/handover/sign$",
    "^/api/import$",
)
SERVER = "/usr/sbin/nginx"

_LARGE = ErrorOut(
    code=ErrorCode.TOO_LARGE,
    message="This is too large.",
    advice="Nothing of it was kept. Send a smaller file.",
)
_AWAY = ErrorOut(
    code=ErrorCode.SERVER_AWAY,
    message="Flaneur is just starting again.",
    expected="an answer of its web server",
    advice="What you typed stays on the page. Look whether it was kept, then try again.",
)


def configuration(settings: Settings, data: Path, web: int, is_root: bool) -> str:
    """The proxy's configuration: ``web`` processes and the live one listen on sockets in
    ``data``. A job's requests go to the same process, which keeps its answers; while that one is
    away, to the next.
    """
    most = max(largest_bytes(settings, endpoint) for endpoint in LARGE)
    servers = "".join(
        f"    server unix:{data}/web-{number}.sock max_fails=0;\n" for number in range(web)
    )
    secure = ""
    if settings.certificate:
        secure = (
            f"    ssl_certificate {settings.certificate};\n"
            f"    ssl_certificate_key {settings.certificate_key};\n"
            "    ssl_protocols TLSv1.2 TLSv1.3;\n"
            f"    location = /shop.crt {{ alias {Path(settings.certificate).parent}/shop.crt; }}\n"
            "    error_page 497 =301 https://$http_host$request_uri;\n"
        )
    proto = "$http_x_forwarded_proto" if settings.proxies > 1 else "$scheme"
    listen = f"{settings.address}:{settings.port}{' ssl' if settings.certificate else ''}"
    folders = "".join(
        f"  {kind}_temp_path {data}/front/{kind};\n"
        for kind in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    files = "".join(_location(path, "heavy" if path in HEAVY else "web", most) for path in FILES)
    heavy = "".join(_location(path, "heavy", WORDS_BYTES) for path in HEAVY if path not in FILES)
    return f"""\
{"user www-data;" if is_root else ""}
daemon off;
pid {data}/front.pid;
error_log {data}/front.log warn;
worker_processes 1;
worker_rlimit_nofile 8192;
events {{ worker_connections 4096; }}
http {{
{folders}\
  access_log off;
  server_tokens off;
  client_header_timeout 10s;
  client_body_timeout 20s;
  send_timeout 30s;
  keepalive_timeout 60s;
  reset_timedout_connection on;
  client_max_body_size {WORDS_BYTES};
  proxy_http_version 1.1;
  proxy_set_header Connection "";
  proxy_set_header Host $http_host;
  proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
  proxy_set_header X-Forwarded-Proto {proto};
  proxy_connect_timeout 3s;
  proxy_read_timeout 60s;
  map $uri $whose {{
    "~^/api/jobs/(?<job>[0-9]+)" $job;
    default $request_id;
  }}
  upstream web {{
    hash $whose consistent;
{servers}\
    keepalive 32;
  }}
  upstream live {{
    server unix:{data}/live.sock max_fails=0;
    keepalive 8;
  }}
  upstream heavy {{
    server unix:{data}/heavy.sock max_fails=0;
    server unix:{data}/web-0.sock backup;
    keepalive 8;
  }}
  server {{
    listen {listen} backlog=1024;
{secure}\
    location / {{ proxy_pass http://web; }}
{_location(LIVE, "live", WORDS_BYTES)}\
{files}\
{heavy}\
    error_page 413 = @large;
    error_page 502 504 = @away;
    location @large {{ {_said(413, _LARGE)} }}
    location @away {{ {_said(503, _AWAY)} }}
  }}
}}
"""


def _location(path: str, upstream: str, most: int) -> str:
    return (
        f'    location ~ "{path}" {{ client_max_body_size {most}; '
        f"proxy_read_timeout 180s; proxy_pass http://{upstream}; }}\n"
    )


def _said(status: int, error: ErrorOut) -> str:
    body = json.dumps({**error.model_dump(mode="json"), "request": ""}).replace("'", "\\'")
    return f"default_type application/json; return {status} '{body}';"


def end_leftovers(pid_file: Path) -> None:
    """End what a killed proxy left behind: its children go on listening without it."""
    with suppress(OSError, ValueError):
        group = int(pid_file.read_text())
        for _ in range(50):
            left = [p for p in Path("/proc").iterdir() if p.name.isdecimal() and _is(p, group)]
            if not left:
                return
            os.killpg(group, signal.SIGKILL)
            time.sleep(0.1)


def _is(process: Path, group: int) -> bool:
    """Whether a process is the proxy's, of that group."""
    with suppress(OSError, IndexError):
        name, rest = (process / "stat").read_text().split("(", 1)[1].rsplit(")", 1)
        state, _, of = rest.split()[:3]
        return name == "nginx" and int(of) == group and state != "Z"
    return False


def main() -> None:
    """Write the configuration and become the proxy."""
    parser = argparse.ArgumentParser(description="The reverse proxy before the web processes.")
    parser.add_argument("data", type=Path)
    parser.add_argument("--web", type=int, default=2, help="how many web processes there are")
    arguments = parser.parse_args()
    data: Path = arguments.data.resolve()
    end_leftovers(data / "front.pid")
    for folder in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi"):
        (data / "front" / folder).mkdir(parents=True, exist_ok=True)
    text = configuration(Settings.from_environment(), data, arguments.web, os.geteuid() == 0)
    (data / "front.conf").write_text(text, encoding="utf-8")
    sys.stdout.flush()
    os.execv(SERVER, [SERVER, "-c", str(data / "front.conf"), "-p", str(data)])


if __name__ == "__main__":
    main()
