"""The shop: its name, its ways, its last backup."""

import json
import shutil
import zoneinfo
from dataclasses import asdict
from datetime import datetime
from pathlib import Path
from typing import Any

from flask import Blueprint
from spectree import Response

from flaneur.api.models import ErrorOut
from flaneur.api.security import person
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.shop.models import (
    BandsIn,
    KeepingIn,
    KeepingOut,
    KeepingQuery,
    RatesIn,
    ShopIn,
    ShopOut,
)
from flaneur.api.work import database, settings
from flaneur.core.book.bands import Bands
from flaneur.core.decision.rates import Rates
from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.store import keeping
from flaneur.store.database import transaction

blueprint = Blueprint("shop", __name__)


class SettingRefused(FlaneurError):
    """A setting that cannot be."""

    code = ErrorCode.SETTING_REFUSED


def _last_backup() -> dict[str, Any]:
    """What the last backup left beside the data; empty where none is known of."""
    try:
        return dict(json.loads((Path(settings().data) / "last-backup.json").read_text("utf-8")))
    except (OSError, ValueError):
        return {}


def _out() -> ShopOut:
    with transaction(database()) as session:
        shop = shop_of(session)
    backup, folder = _last_backup() if settings().data else {}, settings().data
    return ShopOut(
        name=shop.name,
        job_prefix=shop.job_prefix,
        currency=shop.currency,
        time_zone=shop.time_zone,
        last_backup=datetime.fromisoformat(backup["at"]) if "at" in backup else None,
        last_backup_file=backup.get("file"),
        free_gb=round(shutil.disk_usage(folder).free / 1e9, 1) if folder else None,
    )


@blueprint.get("/api/shop")
@checked(resp=Response(HTTP_200=ShopOut))
def get_shop() -> ShopOut:
    """The shop's name and ways, and its last backup."""
    return _out()


@blueprint.get("/api/shop/keeping")
@checked(resp=Response(HTTP_200=KeepingOut))
def get_keeping(query: KeepingQuery) -> KeepingOut:
    """How long samples are kept, what is kept takes, and what a term would let go of."""
    with transaction(database()) as session:
        months = shop_of(session).keep_samples_months
        found = keeping.taken(session, query.months or months)
        return KeepingOut(months=months, **asdict(found))


@blueprint.put("/api/shop/keeping")
@checked(resp=Response(HTTP_200=KeepingOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def change_keeping(json: KeepingIn) -> KeepingOut:
    """Change how long samples are kept. What is past the term goes within the hour, for good."""
    with transaction(database(), person()) as session:
        shop = session.merge(shop_of(session))
        shop.keep_samples_months = json.months
        session.add(shop)
        session.flush()
        return KeepingOut(months=json.months, **asdict(keeping.taken(session, json.months)))


@blueprint.put("/api/shop/rates")
@checked(resp=Response(HTTP_200=Rates, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def change_rates(json: RatesIn) -> Rates:
    """Change what the shop reckons with. What was decided stays as it was reckoned then."""
    with transaction(database(), person()) as session:
        shop = session.merge(shop_of(session))
        shop.rates = json.rates.model_dump(mode="json")
        session.add(shop)
    return json.rates


@blueprint.put("/api/shop/bands")
@checked(resp=Response(HTTP_200=Bands, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def change_bands(json: BandsIn) -> Bands:
    """Change what the shop judges by where a book gives no limit."""
    with transaction(database(), person()) as session:
        shop = session.merge(shop_of(session))
        shop.bands = json.bands.model_dump(mode="json")
        session.add(shop)
    return json.bands


@blueprint.put("/api/shop")
@checked(resp=Response(HTTP_200=ShopOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def change_shop(json: ShopIn) -> ShopOut:
    """Change the shop's name and ways. Jobs that were numbered and signed stay as they are."""
    if json.time_zone not in zoneinfo.available_timezones():
        raise SettingRefused(
            "There is no such time zone.",
            read=json.time_zone,
            expected="a name such as Europe/Oslo, or UTC",
        )
    with transaction(database(), person()) as session:
        shop = session.merge(shop_of(session))
        for key, value in json.model_dump().items():
            setattr(shop, key, value)
        session.add(shop)
    return _out()
