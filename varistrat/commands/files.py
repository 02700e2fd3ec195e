"""Files that are named on the command line."""

from pathlib import Path
from typing import Any

from varistrat.core.errors import InputError
from varistrat.core.interchange.steels_csv import read_steels
from varistrat.core.reading import read_json
from varistrat.core.shop import ShopData


def load(path: str) -> Any:
    """JSON. Raises InputError."""
    try:
        return read_json(Path(path).read_bytes())
    except OSError as e:
        raise InputError.at("", f"cannot be read ({e.strerror})", "check the file's name") from e


def shop_in(path: str) -> ShopData:
    """The shop whose steels are in a CSV file. Raises InputError."""
    from varistrat.core.steels.estimate import shop_steel

    try:
        text = Path(path).read_text(encoding="utf-8")
    except OSError as e:
        raise InputError.at("", f"cannot be read ({e.strerror})", "check the file's name") from e
    except UnicodeDecodeError as e:
        raise InputError.at("", "not UTF-8 text", "save it as UTF-8") from e
    own = {key: shop_steel(key, figures) for key, figures in read_steels(text).items()}
    return ShopData(own)
