"""script/setup on a machine that has no Node, or an old one."""

import os
import subprocess
from pathlib import Path

import pytest
from tests.support.cluster import ROOT

NEEDED = [
    "bash",
    "cat",
    "chmod",
    "cut",
    "dirname",
    "head",
    "ln",
    "mkdir",
    "rm",
    "sha256sum",
    "sort",
    "tr",
]
NEEDED += ["env", "id", "sh"]


def tools(folder: Path, node: str | None) -> str:
    """A path with what every Debian has, and with a Node of that version or none."""
    folder.mkdir()
    for name in NEEDED:
        found = subprocess.run(["which", name], capture_output=True, text=True).stdout.strip()
        if found:
            (folder / name).symlink_to(found)
    if node:
        for name, said in (("node", node), ("npm", "9.2.0")):
            (folder / name).write_text(f"#!/bin/sh\necho {said}\n")
            (folder / name).chmod(0o755)
    return str(folder)


def set_up(tmp_path: Path, node: str | None) -> tuple[Path, str]:
    place = tmp_path / "node"
    environment = {**os.environ, "PATH": tools(tmp_path / "bin", node), "FLANEUR_NODE": str(place)}
    done = subprocess.run(
        [ROOT / "script" / "setup", "node"],
        env=environment,
        capture_output=True,
        text=True,
        timeout=300,
    )
    assert done.returncode == 0, done.stderr
    return place, done.stderr


@pytest.mark.parametrize("node", [None, "v18.20.4"], ids=["none", "too old"])
def test_node_is_brought_where_the_machine_has_none_to_build_with(
    tmp_path: Path, node: str | None
) -> None:
    place, said = set_up(tmp_path, node)
    assert "Installing Node" in said
    bare = {"PATH": f"{place / 'path'}:{tmp_path / 'bin'}", "HOME": str(tmp_path)}
    for tool, least in (("node", "v20.19"), ("npm", "10"), ("npx", "10")):
        version = subprocess.run(
            [place / "path" / tool, "--version"], env=bare, capture_output=True, text=True
        ).stdout.strip()
        found = [int(p) for p in version.lstrip("v").split(".")[:2]]
        assert found >= [int(p) for p in least.lstrip("v").split(".")], (tool, version)


@pytest.mark.parametrize("node", ["v20.19.0", "v22.1.0", "v100.0.0"])
def test_a_node_that_is_new_enough_is_taken(tmp_path: Path, node: str) -> None:
    place, said = set_up(tmp_path, node)
    assert not place.exists()
    assert said == ""
