"""Settings come from the environment, each documented; reports carry what people typed as text, not
as markup.
"""

import pytest
from demo.walk import Visitor
from tests.api.conftest import House

from flaneur.api.settings import Settings


def test_every_setting_says_what_it_is_for() -> None:
    for name, item in Settings.model_fields.items():
        assert len(item.description or "") > 10, name


def test_settings_are_read_from_the_environment(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("FLANEUR_UPLOAD_LIMIT_BYTES", "12345")
    monkeypatch.setenv("FLANEUR_BOX_HOST", "127.0.0.9")
    settings = Settings.from_environment()
    assert settings.upload_limit_bytes == 12345
    assert settings.box_host == "127.0.0.9"
    assert settings.session_hours == 12


def test_a_number_that_is_none_is_refused_by_name(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("FLANEUR_BOX_PORT", "eighty")
    with pytest.raises(
        SystemExit, match=r"FLANEUR_BOX_PORT is 'eighty': input should be a valid integer"
    ):
        Settings.from_environment()


def test_a_complaint_with_markup_stays_text_in_the_report(
    house: House, visitor: Visitor, job: int
) -> None:
    visitor.change(job, "PUT", "/intake", {"complaint": "<script>alert(1)</script> & rattle"})
    page = visitor.client.get(f"/api/jobs/{job}/report.html").text
    assert "<script>" not in page
    assert "&lt;script&gt;alert(1)&lt;/script&gt; &amp; rattle" in page


def test_a_draft_report_says_that_it_is_one(visitor: Visitor, job: int) -> None:
    assert "Draft, not signed." in visitor.client.get(f"/api/jobs/{job}/report.html").text
