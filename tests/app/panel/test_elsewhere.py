"""A code that is of another model is named as that."""

from bottega.app.panel.elsewhere import MOST_NAMED, elsewhere


def test_every_code_of_another_sheet_is_said_to_be_of_it(shelf, f7):
    own = {code.lower() for code in f7.codes}
    for name, sheet in shelf.sheets.items():
        if name == f7.sheet:
            continue
        for code in sheet.codes:
            alike = [s for s in shelf.sheets.values() if code in s.codes and s.sheet != f7.sheet]
            told = elsewhere(shelf, f7, f" {code.upper()} ")
            assert any(s.title in told for s in alike[:MOST_NAMED]), (name, code, own)


def test_nothing_is_said_of_what_is_nowhere_and_of_its_own_sheet(shelf, f7):
    assert elsewhere(shelf, f7, "99-99") == ""
    alone = next(
        code
        for code in f7.codes
        if not any(code in s.codes for n, s in shelf.sheets.items() if n != f7.sheet)
    )
    assert elsewhere(shelf, f7, alone) == ""
