"""What is asked when an engine comes in, besides the complaint."""

from flaneur.core.choices import Worded


class OilState(Worded):
    """What the oil's level and age let expect of it."""

    GOOD = "good", "good"
    POOR = "poor", "poor or late"
    UNKNOWN = "unknown", "unknown"


class AccessoryNoise(Worded):
    """Whether pump, pulley or belt can be what is heard."""

    EXCLUDED = "excluded", "excluded"
    NOT_EXCLUDED = "not_excluded", "not excluded"
    UNKNOWN = "unknown", "unknown"


class Rattle(Worded):
    """When the chain is said to rattle."""

    COLD_START = "cold_start", "at a cold start"
    HOT_IDLE = "hot_idle", "at hot idle"
    NONE = "none", "no rattle"
    UNKNOWN = "unknown", "not said"


class Starts(Worded):
    """Whether the engine starts."""

    YES = "yes", "it starts"
    NO = "no", "it does not start"
    UNKNOWN = "unknown", "not said"
