"""Writes tests/data/said/cldr-*.txt: rows whose words are those of Unicode CLDR, as the ICU library has them (Debian's python3-icu).

Numbers and ordinals are its rule-based number formats, units its long forms, months its names. How they are put together is common practice.
Run from the root of the project: python3 tests/support/said-from-cldr.py
"""
import icu

SPELL = {'en': 'spellout-cardinal-verbose', 'de': 'spellout-cardinal-neuter', 'fr': 'spellout-numbering', 'es': 'spellout-numbering'}
ORDINAL = {'en': 'spellout-ordinal-verbose'}
MARKS = {'en': (',', '.'), 'de': ('.', ','), 'fr': (' ', ','), 'es': ('.', ',')}
SENTENCE = {'en': 'There are {} left.', 'de': 'Es sind {} da.', 'fr': 'Il en reste {} ici.', 'es': 'Quedan {} en total.'}
MEASURE = {'en': 'It is {}.', 'de': 'Es sind {}.', 'fr': 'Cela fait {}.', 'es': 'Son {}.'}
LOCALE = {'en': 'en_GB', 'de': 'de_DE', 'fr': 'fr_FR', 'es': 'es_ES'}

NUMBERS = [*range(2, 21), 25, 30, 32, 40, 43, 50, 54, 60, 65, 70, 72, 76, 80, 83, 87, 90, 94, 98, 99, 100, 102, 110, 115, 120, 136, 150, 200, 207, 250, 318, 400, 444, 500, 555, 600, 672, 700, 789, 800, 850, 900, 999,
           2000, 2005, 2500, 3040, 3333, 4000, 4096, 5280, 6789, 7777, 8008, 8192, 9999, 10000, 10010, 12000, 12345, 20000, 25600, 40000, 50505, 65536, 90000, 100000, 123456, 200200, 250000, 500000, 777777, 999999,
           1000000, 1234567, 2000000, 2500000, 10000000, 12345678, 100000000, 987654321, 1000000000, 2147483648, 1000000000000]
DECIMALS = ['0.5', '1.5', '2.25', '3.14', '9.81', '12.75', '0.05', '0.125', '99.9', '100.01', '2.718', '6.02', '1.414', '7.07', '10.5', '15.6', '20.2', '33.3', '0.9', '1.01']
UNITS = {'mm': 'millimeter', 'cm': 'centimeter', 'm': 'meter', 'km': 'kilometer', 'ft': 'foot', 'yd': 'yard', 'mi': 'mile', 'g': 'gram', 'kg': 'kilogram', 'mg': 'milligram', 't': 'tonne', 'oz': 'ounce', 'lb': 'pound', 'ml': 'milliliter', 'l': 'liter', 'cl': 'centiliter', 'dl': 'deciliter',
         'hl': 'hectoliter', 'ha': 'hectare', 'min': 'minute', 'h': 'hour', 'ms': 'millisecond', 'km/h': 'kilometer-per-hour', 'm/s': 'meter-per-second', 'W': 'watt', 'kW': 'kilowatt', 'V': 'volt', 'Hz': 'hertz', 'kHz': 'kilohertz', 'MHz': 'megahertz', 'GHz': 'gigahertz', 'hPa': 'hectopascal',
         'kPa': 'kilopascal', 'kJ': 'kilojoule', 'kcal': 'kilocalorie', 'm²': 'square-meter', 'km²': 'square-kilometer', 'cm²': 'square-centimeter', 'm³': 'cubic-meter', 'cm³': 'cubic-centimeter', 'µm': 'micrometer', 'nm': 'nanometer', '°C': 'celsius', '°F': 'fahrenheit'}
ELSEWHERE = ['cm', 'km', 'g', 'kg', 'mg', 'ml', 'l', 'km/h', 'W', 'kW', 'V', 'Hz', 'MHz', 'hPa', 'kJ', 'm²', 'm³', 'µm', '°C']
YEARS = [*range(1100, 2000, 7), *range(2000, 2100, 5)]


def heard(words):
    return words.replace('\u00ad', '').replace(',', '').replace('oh-', 'oh ').replace('-et-', ' et ').replace('  ', ' ').replace('\u00a0', ' ').replace('\u202f', ' ')


def spell(language, number, rules=None):
    formatter = icu.RuleBasedNumberFormat(icu.URBNFRuleSetTag.SPELLOUT, icu.Locale(language))
    formatter.setDefaultRuleSet('%' + (rules or SPELL[language]))
    return heard(formatter.format(number))


def grouped(language, number):
    return f'{number:,}'.replace(',', MARKS[language][0])


def unit_name(language, unit, number):
    formatter = icu.NumberFormatter.withLocale(icu.Locale(LOCALE[language])).unit(icu.MeasureUnit.forIdentifier(unit)).unitWidth(icu.UNumberUnitWidth.FULL_NAME)
    return heard(formatter.formatInt(number)).split(' ', 1)[1]


def cardinals(language):
    for number in NUMBERS:
        yield SENTENCE[language].format(grouped(language, number)), SENTENCE[language].format(spell(language, number))


def decimals(language):
    for figures in DECIMALS:
        whole, rest = figures.split('.')
        point = {'en': 'point', 'de': 'Komma', 'fr': 'virgule', 'es': 'coma'}[language]
        numbering = 'spellout-numbering' if language != 'en' else None
        words = ' '.join([spell(language, int(whole), numbering), point, *(spell(language, int(each), numbering) for each in rest)])
        yield SENTENCE[language].format(figures.replace('.', MARKS[language][1])), SENTENCE[language].format(words)


def units(language, signs, numbers):
    for sign in signs:
        for number in numbers:
            yield MEASURE[language].format(f'{number} {sign}'), MEASURE[language].format(f'{spell(language, number)} {unit_name(language, UNITS[sign], number)}')


def years(language):
    for year in YEARS:
        words = spell(language, year, 'spellout-numbering-year')
        if language == 'en' and 2000 < year < 2010:
            words = words.replace('thousand ', 'thousand and ')
        yield f'In {year}.', f'In {words}.'


def english_ordinals():
    for number in [*range(1, 60), *range(60, 130, 7), 200, 225, 300, 312, 500, 1000, 1001]:
        ending = 'th' if 10 <= number % 100 <= 20 else {1: 'st', 2: 'nd', 3: 'rd'}.get(number % 10, 'th')
        yield f'This is the {number:,}{ending} bee.', f'This is the {spell("en", number, ORDINAL["en"])} bee.'


def english_dates():
    symbols = icu.DateFormatSymbols(icu.Locale('en_GB')).getMonths()
    for month, name in enumerate(symbols):
        for day in (1, 2, 3, 11, 20, 23, 30):
            if not (name == 'February' and day == 30):
                yield f'On {day} {name}.', f'On the {spell("en", day, ORDINAL["en"])} of {name}.'
        yield f'On {month + 1:02}/{month + 1:02}/1999.', f'On the {spell("en", month + 1, ORDINAL["en"])} of {name} nineteen ninety-nine.'
        yield f'On 2001-{month + 1:02}-17.', f'On the seventeenth of {name} two thousand and one.'


def english_times():
    for hour in (1, 3, 6, 8, 10, 12):
        for minute in (0, 1, 5, 9, 10, 15, 30, 45, 59):
            low = "o'clock" if minute == 0 else f'oh {spell("en", minute)}' if minute < 10 else spell('en', minute)
            yield f'At {hour}:{minute:02}.', f'At {spell("en", hour)} {low}.'
    for hour in range(1, 13):
        yield f'At {hour}am sharp.', f'At {spell("en", hour)} AM sharp.'
        yield f'At {hour}:20 p.m. sharp.', f'At {spell("en", hour)} twenty PM sharp.'


def percents(language):
    for number in (2, 5, 10, 12, 20, 25, 33, 50, 75, 90, 99, 100):
        words = {'en': 'per cent', 'de': 'Prozent', 'fr': 'pour cent', 'es': 'por ciento'}[language]
        yield MEASURE[language].format(f'{number}%'), MEASURE[language].format(f'{spell(language, number)} {words}')


def write(language, families):
    with open(f'tests/data/said/cldr-{language}.txt', 'w', encoding='utf8') as file:
        file.write('# Made by tests/support/said-from-cldr.py: the words are those of Unicode CLDR.\n')
        for name, rows in families:
            file.write(f'\n## {name} — Unicode CLDR as ICU {icu.ICU_VERSION} has it\n')
            file.writelines(f'{written} → {said}\n' for written, said in dict(rows).items())


write('en', [('Cardinal numbers', cardinals('en')), ('Decimals', decimals('en')), ('Ordinals', english_ordinals()), ('Years', years('en')), ('Units', units('en', UNITS, (1, 2, 5, 12, 20, 250))), ('Per cent', percents('en')),
             ('Dates, put together as is common practice', english_dates()), ('Times, put together as is common practice', english_times())])
for other in ('de', 'fr', 'es'):
    write(other, [('Cardinal numbers', cardinals(other)), ('Decimals', decimals(other)), ('Units', units(other, ELSEWHERE, (2, 5))), ('Per cent', percents(other))])
