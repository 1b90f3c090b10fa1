"""Unit tests of the helpers that generated Python scripts carry: python3 -m unittest test_helpers"""

import datetime
import importlib
import pathlib
import unittest
from decimal import ROUND_HALF_UP

import pandas as pd
from helpers.between import between
from helpers.by_row import by_row
from helpers.cast import cast
from helpers.cells import cells
from helpers.column import ListText, column
from helpers.lower_of import natural_key, text_key
from helpers.read_boolean import read_boolean
from helpers.read_date import read_date, read_moment
from helpers.read_number import read_number
from helpers.rounded import rounded
from helpers.shown import shown
from helpers.type_of import type_of

FOLDER = pathlib.Path(__file__).parent / "helpers"


class Files(unittest.TestCase):
    def test_each_is_imported_alone(self):
        """What a helper imports is all that it needs."""
        for path in sorted(FOLDER.glob("*.py")):
            with self.subTest(path.stem):
                importlib.import_module("helpers." + path.stem)


class Values(unittest.TestCase):
    def test_numbers_are_read_with_signs_groups_and_percent(self):
        for text, value in [
            ("12.5", 12.5),
            ("1,204", 1204.0),
            ("£ 38.50", 38.5),
            ("(3)", -3.0),
            ("−7", -7.0),
            ("50 %", 0.5),
            ("1e3", 1000.0),
            (" 4 ", 4.0),
            ("4 kg", None),
            ("(3", None),
            ("£4€", None),
            ("", None),
        ]:
            with self.subTest(text):
                self.assertEqual(value, read_number(text))

    def test_a_comma_may_be_the_decimal_sign(self):
        self.assertEqual(1204.5, read_number("1.204,5", ",", "."))

    def test_truth_is_read_from_words(self):
        self.assertEqual([True, False, None], [read_boolean(t) for t in ("Yes", " f ", "maybe")])

    def test_dates_are_read_as_iso_or_by_patterns(self):
        patterns = [(r"^([0-9]{1,2})/([0-9]{1,2})/([0-9]{4})$", "day month year")]
        self.assertEqual(datetime.date(2031, 5, 2), read_date("2031-05-02"))
        self.assertEqual(datetime.date(2031, 5, 2), read_date("2/5/2031", patterns))
        self.assertIsNone(read_date("31/2/2031", patterns))

    def test_a_bare_date_is_a_moment_at_midnight(self):
        self.assertEqual(datetime.datetime(2031, 5, 2), read_moment("2031-05-02", None, "datetime"))

    def test_values_are_written_as_csv_writes_them(self):
        for value, text in [
            (True, "true"),
            (3, "3"),
            (0.1 + 0.2, "0.3"),
            (-0.0, "0"),
            (1e21, "1e21"),
            (datetime.date(987, 1, 2), "0987-01-02"),
            (datetime.time(8, 30, 0, 5000), "08:30:00.005"),
            (datetime.datetime(2031, 5, 2, 8, 30), "2031-05-02T08:30:00"),
        ]:
            with self.subTest(text):
                self.assertEqual(text, shown(value))

    def test_halves_are_rounded_away_from_zero_by_the_digits_one_sees(self):
        self.assertEqual(
            [2.68, -2.68, 3.0], [rounded(x, n, ROUND_HALF_UP) for x, n in ((2.675, 2), (-2.675, 2), (2.5, 0))]
        )

    def test_days_between_moments_have_fractions(self):
        self.assertEqual(1.5, between(datetime.datetime(2031, 5, 2, 12), datetime.date(2031, 5, 1)))


class Columns(unittest.TestCase):
    def test_a_column_has_the_type_it_is_made_with(self):
        for values, kind in [
            ([1, None], "integer"),
            ([1.5, None], "decimal"),
            ([True, None], "boolean"),
            (["a", None], "text"),
            (["[1]", None], "list"),
            ([datetime.date(2031, 5, 2), None], "date"),
        ]:
            with self.subTest(kind):
                made = column(values, kind)
                self.assertEqual(kind, type_of(made))
                self.assertEqual(values, cells(made))

    def test_whole_numbers_beyond_what_a_double_holds_are_empty(self):
        self.assertEqual([None], cells(column([2**60], "integer")))

    def test_an_empty_text_is_no_value(self):
        self.assertEqual([None], cells(column([""], "text")))

    def test_a_list_stays_a_list(self):
        self.assertIsInstance(cells(column(["[1,2]"], "list"))[0], ListText)

    def test_text_is_cast_and_what_does_not_read_is_empty(self):
        self.assertEqual([12, None, None], cells(cast(column(["12", "a", None], "text"), "integer")))

    def test_a_function_by_row_passes_over_empty_cells(self):
        doubled = by_row(lambda x: x * 2)
        self.assertEqual([2, None], cells(doubled(column([1, None], "integer"))))

    def test_a_function_by_row_gives_empty_where_it_fails(self):
        halves = by_row(lambda x: 1 / x)
        self.assertEqual([None, 0.5], cells(pd.Series(halves(column([0, 2], "integer")))))


class Order(unittest.TestCase):
    def test_text_goes_by_its_small_letters_then_by_itself(self):
        self.assertEqual(["Ada", "ada", "Bo"], sorted(["Bo", "ada", "Ada"], key=text_key))

    def test_numbers_in_text_go_by_their_size(self):
        self.assertEqual(["Ward 2", "Ward 10"], sorted(["Ward 10", "Ward 2"], key=natural_key))


if __name__ == "__main__":
    unittest.main()
