"""Long forms of numbers with units by the ICU library: an independent reference.

Reads {language: [unit identifiers]} as JSON, writes {language: {unit: [of one, of five]}}, without the numbers.
"""
import json
import sys

import icu


def name(language, unit, number):
    formatter = icu.NumberFormatter.withLocale(icu.Locale(language)).unit(icu.MeasureUnit.forIdentifier(unit)).unitWidth(icu.UNumberUnitWidth.FULL_NAME)
    return formatter.formatInt(number).replace('\u00a0', ' ').split(' ', 1)[1]


json.dump({language: {unit: [name(language, unit, 1), name(language, unit, 5)] for unit in units} for language, units in json.load(sys.stdin).items()}, sys.stdout)
