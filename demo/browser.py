"""A headless Chromium for pictures and tests, at a fixed page size."""

from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

# The shell draws pages as the whole browser does and keeps no windows of its own, which is less
# work. Where time is measured it is the whole one, which people have.
SHELL, WHOLE = "/usr/lib/chromium/chromium-headless-shell", "/usr/bin/chromium"
FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--hide-scrollbars",
    "--force-color-profile=srgb",
)


def chromium(
    width: int = 1280,
    height: int = 800,
    traces: str = "",
    profile: str = "",
    binary: str = SHELL,
) -> webdriver.Chrome:
    """Start Chromium with a page of ``width`` × ``height`` CSS pixels, and an empty profile that is
    gone when it ends, or the one in the folder ``profile``.

    ``traces`` names trace categories for the browser's own performance log; empty keeps none.
    """
    options = Options()
    options.binary_location = binary
    for flag in (*FLAGS, *([f"--user-data-dir={profile}"] if profile else [])):
        options.add_argument(flag)
    options.set_capability(
        "goog:loggingPrefs", {"browser": "ALL", **({"performance": "ALL"} if traces else {})}
    )
    if traces:
        options.add_experimental_option(
            "perfLoggingPrefs",
            {"enableNetwork": False, "enablePage": False, "traceCategories": traces},
        )
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    resize(driver, width, height)
    return driver


def resize(driver: webdriver.Chrome, width: int, height: int) -> None:
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    # The page hears of it with the next frame and draws what depends on it with the one after.
    driver.execute_async_script(
        "const done = arguments[0]; const frame = requestAnimationFrame;"
        "frame(() => frame(() => frame(() => done())))"
    )


def picture(driver: webdriver.Chrome, path: Path) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    driver.save_screenshot(str(path))
