"""What to buy and what to have ready, for the whole batch."""

from __future__ import annotations

from mattone_engine.days.beside import BesideItem
from mattone_engine.dough.formula import FormulaResult
from mattone_engine.dough.toppings import ToppingResult, topping_kinds
from mattone_engine.things.base import StrictModel


class Item(StrictModel):
    """Something to have: how much of it in all, and that in cups and spoons; grams 0 where it is counted, as sheets of paper."""

    name: str
    grams: float
    household: str


class Lists(StrictModel):
    """shopping: for dough, what is used beside it, and toppings; water is on it for the scale. prep: what each topping wants before it lies on a pizza."""

    shopping: list[Item]
    prep: list[str]


def lists(dough: FormulaResult | None, toppings: ToppingResult | None, beside: list[BesideItem] | None = None) -> Lists:
    """Both lists; the same thing on two halves is bought once. beside: what is used outside the formula."""
    items: dict[str, Item] = {}
    if dough is not None:
        for row in dough.rows:
            if row.total_g > 0:
                items[row.name] = Item(name=row.name, grams=row.total_g, household=row.household)
    for one in beside or []:
        items[one.name] = Item(name=one.name, grams=one.grams, household=one.household)
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
