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
