"""What a device is called, as its browser says."""

_SYSTEMS = ("iPhone", "iPad", "Android", "Windows", "Macintosh", "CrOS", "Linux")
_BROWSERS = ("Edg", "OPR", "Firefox", "Chrome", "Safari")
_NAMES = {"Macintosh": "Mac", "CrOS": "Chromebook", "Edg": "Edge", "OPR": "Opera"}


def device_of(agent: str) -> str:
    """Tell a browser and a system from what a browser says; what it says, where neither is known.

    >>> device_of("Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0")
    'Firefox, Linux'
    """
    browser = next((one for one in _BROWSERS if one in agent), "")
    system = next((one for one in _SYSTEMS if one in agent), "")
    known = [_NAMES.get(one, one) for one in (browser, system) if one]
    return ", ".join(known) or agent[:60]
