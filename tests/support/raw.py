"""YAML as tests change it, read and written by the C library where there is one."""

from typing import Any

import yaml

_LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)
_DUMPER = getattr(yaml, "CSafeDumper", yaml.SafeDumper)


def read_yaml(text: str) -> Any:
    return yaml.load(text, Loader=_LOADER)


def write_yaml(raw: Any) -> str:
    return yaml.dump(raw, Dumper=_DUMPER, allow_unicode=True, sort_keys=False)
