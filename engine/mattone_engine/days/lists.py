"""What to buy and what to have ready, for the whole batch."""

from __future__ import annotations

from mattone_engine.dough.formula import FormulaResult
from mattone_engine.dough.toppings import ToppingResult, topping_kinds
from mattone_engine.things.base import StrictModel


class Item(StrictModel):
    """Something to have: how much of it in all, as cups and spoons where they hold it."""

    name: str
    grams: float
    household: str


class Lists(StrictModel):
    """shopping: for dough and toppings. prep: what each topping wants before it lies on a pizza."""

    shopping: list[Item]
    prep: list[str]


def lists(dough: FormulaResult | None, toppings: ToppingResult | None) -> Lists:
    """Both lists; the same thing on two halves is bought once."""
    items: dict[str, Item] = {}
    if dough is not None:
        for row in dough.rows:
            if row.ingredient != "water" and row.total_g > 0:
                items[row.name] = Item(name=row.name, grams=row.total_g, household=row.household)
    prep: list[str] = []
    if toppings is not None:
        for lot in toppings.lots:
            # What is cooked down is bought as it was before.
            name, grams = (topping_kinds()["sauce"].name, lot.raw_g) if lot.raw_g else (lot.name, lot.all_g)
            there = items.get(name)
            items[name] = Item(name=name, grams=grams + (there.grams if there else 0.0), household="")
            if lot.treat:
                words = f"{lot.name[0].upper()}{lot.name[1:]}, {{{lot.all_g:.0f} g}}: {lot.treat}."
                if words not in prep:
                    prep.append(words)
    return Lists(shopping=list(items.values()), prep=prep)
