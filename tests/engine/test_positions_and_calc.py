"""The position card, and the command line that prints it."""

import json
from pathlib import Path

import pytest
from strom_calc.__main__ import COMMANDS, main
from strom_engine.circuit import position_card
from strom_engine.design import State

from bench.designs import Draft
from tests.engine.boats import DEMO, two_banks

MARSH = str(DEMO / "marsh_wren.json")


def test_the_card_of_a_selector() -> None:
    card = position_card(two_banks().design(), State(rpm=2000, profile="living"))
    rows = {(r.positions["selector"], r.engine): r for r in card.rows}
    assert len(rows) == 8
    assert rows["1", "off"].fed_by["panel"] == ("engine_bank",)
    assert rows["both", "off"].fed_by["panel"] == ("engine_bank", "house_bank")
    assert rows["off", "off"].dead == ("panel", "starter")
    assert rows["2", "on"].charged_by == {"engine_bank": (), "house_bank": ("alternator",)}
    assert [d.kind for d in rows["off", "on"].dangers] == ["alternator_cut_off"]
    assert not any(r.dangers for key, r in rows.items() if key != ("off", "on"))
    assert rows["2", "on"].charging_a["house_bank"] > 20


def test_joined_lithium_is_a_danger_on_the_card() -> None:
    card = position_card(two_banks(house_bank={"chemistry": "lfp"}).design(), State())
    unlike = [r.positions["selector"] for r in card.rows if r.dangers and r.engine == "off"]
    assert unlike == ["both"]


def test_a_card_that_grows_too_long_says_what_it_leaves_out() -> None:
    draft: Draft = two_banks()
    for n in range(9):
        draft.part("switch", f"switch_{n}")
    card = position_card(draft.design(), State())
    assert len(card.rows) <= 256
    assert card.switches[0] == "selector"
    assert len(card.switches) + len(card.fixed) == 10


@pytest.mark.parametrize("command", sorted(COMMANDS))
def test_every_command_answers(command: str, capsys: pytest.CaptureFixture[str]) -> None:
    state = '{"engine": "on", "rpm": 1800, "profile": "at_anchor"}'
    assert main([command, MARSH, "--variant", "Proposal A", "--state", state]) == 0
    printed = capsys.readouterr().out
    if command == "netlist":
        assert printed.startswith("* Strom") and printed.endswith(".end\n")
    else:
        assert json.loads(printed)


def test_validate_and_schema(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["validate", MARSH]) == 0
    assert json.loads(capsys.readouterr().out)["variants"][0] == "As found"
    assert main(["schema"]) == 0
    schema = Path(__file__).parents[2] / "docs/job.schema.json"
    assert capsys.readouterr().out == schema.read_text()


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["bench", "nowhere.json"], "nowhere.json: No such file"),
        (["bench", MARSH, "--variant", "Best"], "there is no variant 'Best'; known: As found"),
        (["bench", MARSH, "--state", '{"engine": "maybe"}'], "state.engine: "),
        (["bench", MARSH, "--state", '{"positions": {"main": "1"}}'], "positions.main: "),
        (["bench", MARSH, "--state", "{"], "state."),
        (["validate", __file__], "not JSON"),
    ],
)
def test_errors_go_to_standard_error_with_status_two(
    arguments: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(arguments) == 2
    streams = capsys.readouterr()
    assert streams.out == ""
    assert words in streams.err
