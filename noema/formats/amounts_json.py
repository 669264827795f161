"""What a class needs of each tube as JSON, for commands."""

from noema.core.planning.amounts import Amounts, Range, notes_of_amounts, rounded_ml, squeezed

Json = dict[str, object]


def amounts_to_json(amounts: Amounts) -> Json:
    """Give amounts as the contract's JSON, the tube most is needed of first."""
    order = sorted(amounts.tubes, key=lambda name: (-amounts.tubes[name].usual, name))
    return {
        "tubes": {name: _range(amounts.tubes[name]) for name in order},
        "per_person": {name: _range(amounts.per_person[name]) for name in order},
        "notes": list(notes_of_amounts()),
    }


def _range(one: Range) -> Json:
    ml = [rounded_ml(part) for part in (one.little, one.usual, one.much)]
    return {"ml": ml, "squeezed": squeezed(one.usual)}
