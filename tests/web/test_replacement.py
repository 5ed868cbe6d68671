"""The replacement's sheet: copied from the old plate, compared, taken over with its history."""

from tests.web.test_starter import circuit, text_of  # noqa: F401 - a fixture


def test_it_begins_with_a_copy_and_is_taken_over(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    empty = text_of(ines.get(f"{circuit}/replacement"))
    assert "Begin with the old plate" in empty
    changes = {
        "was:new_plate.power": "",
        "f:new_plate.power": "75 hp",
        "f:new_plate.speed": "1191 rpm",
        "was:new_plate.speed": "",
    }
    assert ines.post(f"{circuit}/replacement", changes).status_code == 302
    page = text_of(ines.get(f"{circuit}/replacement"))
    assert "1191 rpm" in page
    assert "Take the new plate over" in page
    was = {
        "was:plate.speed": "1185 rpm",
        "f:plate.speed": "1191 rpm",
        "was:new_plate.speed": "1191 rpm",
        "f:new_plate.speed": "",
    }
    ines.post(f"{circuit}/replacement", was)
    assert "1191 rpm" in text_of(ines.get(f"{circuit}/plate"))


def test_what_would_only_be_to_check_is_not_said_to_pass(sign_in, circuit):  # noqa: F811
    """A copy without the old machine's own data: what rested on them is named, a check as well as a failure."""
    ines = sign_in("ines")
    plate = {"power": "75 hp", "volts": "230/460", "full_load_current": "184/92", "frequency": "60 Hz", "speed": "1185 rpm",
             "code_letter": "G", "code_letter_for": "run", "leads": "12", "service_factor": "1.15"}  # fmt: skip
    ines.post(f"{circuit}/replacement", {f"f:new_plate.{key}": text for key, text in plate.items()})
    page = text_of(ines.get(f"{circuit}/replacement"))
    then = page.partition("Then not passing")[2]
    assert "Every check of the circuit would pass" not in page
    assert "<strong>check</strong>" in then.partition("The new plate")[0]
